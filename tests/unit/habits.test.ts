import { describe, expect, test } from "vitest";
import { readBundle } from "@/formats/bundle/read";
import { REPS } from "@/standins/emberwick/cast";
import { generate } from "@/standins/emberwick/generate";
import { day } from "../kit/company";

// The demo behaves as sales do, so that what the program finds is there to be found.
const { bundle } = readBundle(generate({ today: day("2026-11-24") }), { timeZone: "Europe/Berlin", baseCurrency: "EUR" });
const rows = (file: Parameters<typeof bundle.files.get>[0]) =>
	(bundle.files.get(file) ?? []).map((row) => row.fields as Record<string, string | number | null>);
const versions = rows("deal_versions.csv");
const ownerOf = new Map(versions.map((v) => [v.deal_id, v.owner_id]));
const stages = ["Enquiry", "Site survey", "Trial bake", "Proposal", "Terms"];
const dealsOf = (rep: string) => new Set([...ownerOf].filter(([, owner]) => owner === rep).map(([deal]) => deal));

/** A share, by rep, of what fits among their versions. */
const share = (
	fits: (v: (typeof versions)[number], before: (typeof versions)[number] | undefined) => boolean,
	of: (v: (typeof versions)[number]) => boolean = () => true,
) => {
	const counts = new Map<string, [number, number]>();
	versions.forEach((v, i) => {
		if (!v.owner_id || !of(v)) return;
		const before = versions[i - 1]?.deal_id === v.deal_id ? versions[i - 1] : undefined;
		const [hit, all] = counts.get(String(v.owner_id)) ?? [0, 0];
		counts.set(String(v.owner_id), [hit + Number(fits(v, before)), all + 1]);
	});
	return (rep: string) => {
		const [hit, all] = counts.get(rep) ?? [0, 1];
		return hit / all;
	};
};
const others = (rep: string) => REPS.filter((r) => r.id !== rep).map((r) => r.id);

describe("among the demo's reps", () => {
	test("there are fourteen, with about nine hundred deals, three hundred of them open", () => {
		expect(REPS).toHaveLength(14);
		expect(rows("deals.csv")).toHaveLength(900);
		const last = new Map(versions.map((v) => [v.deal_id, v.stage]));
		const open = [...last.values()].filter((stage) => stages.includes(String(stage))).length;
		expect(open).toBeGreaterThan(200);
		expect(open).toBeLessThan(350);
	});
	test("Tobias commits early", () => {
		const early = share(
			(v) => v.category === "commit",
			(v) => v.stage === "Trial bake",
		);
		for (const other of others("tobias")) expect(early("tobias")).toBeGreaterThan(early(other) + 0.5);
	});
	test("Oriol keeps stages fresh by moving back and forth", () => {
		const back = share(
			(v, before) => before !== undefined && stages.indexOf(String(v.stage)) >= 0 && stages.indexOf(String(v.stage)) < stages.indexOf(String(before.stage)),
		);
		for (const other of others("oriol")) expect(back("oriol")).toBeGreaterThan(back(other));
	});
	test("Gwen hardly ever writes answers down", () => {
		const perDeal = (rep: string) => {
			const own = dealsOf(rep);
			return rows("answers.csv").filter((a) => own.has(a.deal_id ?? "")).length / own.size;
		};
		for (const other of others("gwen")) expect(perDeal("gwen")).toBeLessThan(perDeal(other) / 2);
	});
	test("Maeve pushes on the last days of the month", () => {
		const atEnd = share(
			(v) => Number(String(v.at).slice(8, 10)) >= 27,
			(v) => {
				const before = versions[versions.indexOf(v) - 1];
				if (!before || before.deal_id !== v.deal_id || before.stage !== v.stage) return false;
				return before.close_date !== null && v.close_date !== null && String(v.close_date) > String(before.close_date);
			},
		);
		for (const other of others("maeve")) expect(atEnd("maeve")).toBeGreaterThan(atEnd(other));
	});
	test("Dario has left and still owns deals", () => {
		const dario = rows("people.csv").find((p) => p.id === "dario");
		expect(String(dario?.active_to) < "2026-11-24").toBe(true);
		expect(dealsOf("dario").size).toBeGreaterThan(20);
	});
	test("Yuki wins more than the rest, with two contacts on every talk", () => {
		const won = share(
			(v) => v.stage === "Won",
			(v) => v.stage === "Won" || v.stage === "Lost",
		);
		const average = REPS.reduce((sum, rep) => sum + won(rep.id), 0) / REPS.length;
		expect(won("yuki")).toBeGreaterThan(average);
	});
	test("losses have a few reasons, and in the South price is the first of them", () => {
		const team = new Map(rows("people.csv").map((p) => [p.id, p.team]));
		const reasons = rows("deals.csv")
			.filter((d) => d.outcome_reason)
			.map((d) => [team.get(String(ownerOf.get(d.id))), d.outcome_reason]);
		const count = (reason: string) => reasons.filter(([t, r]) => t === "South" && r === reason).length;
		for (const reason of ["Chose another maker", "No decision", "Bought used"]) expect(count("Price")).toBeGreaterThan(count(reason));
	});
});
