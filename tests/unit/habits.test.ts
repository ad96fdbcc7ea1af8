import { describe, expect, test } from "vitest";
import { makeCalendar } from "@/core/time/calendar";
import { formatDay } from "@/core/time/day";
import { monthOf, quarterAt, quarterIndex } from "@/core/time/period";
import { holidaysAround } from "@/fakes/emberwick/almanac";
import { REPS } from "@/fakes/emberwick/cast";
import { generate } from "@/fakes/emberwick/generate";
import { readBundle } from "@/formats/bundle/read";
import { day } from "../kit/company";

// The demo behaves as sales do, so that what the program finds is there to be found.
const { bundle } = readBundle(generate({ today: day("2026-11-24") }), { timeZone: "Europe/Berlin", baseCurrency: "EUR" });
const rows = (file: Parameters<typeof bundle.files.get>[0]) =>
	(bundle.files.get(file) ?? []).map((row) => row.fields as Record<string, string | number | null>);
const versions = rows("deal_versions.csv");
const ownerOf = new Map(versions.map((v) => [v.deal_id, v.owner_id]));
const byDeal = new Map<string | number | null | undefined, (typeof versions)[number][]>();
for (const v of versions) byDeal.set(v.deal_id, [...(byDeal.get(v.deal_id) ?? []), v]);
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

describe("among the demo’s reps", () => {
	test("there are fourteen, with twelve hundred deals of two and a half years, more than two hundred of them open", () => {
		expect(REPS).toHaveLength(14);
		expect(rows("deals.csv")).toHaveLength(1200);
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
	test("Maeve makes most of the pushes of the last three working days of a month", () => {
		const calendar = makeCalendar(
			[0, 6],
			holidaysAround(day("2026-11-24")).map((holiday) => holiday.day),
		);
		const late = versions.flatMap((v, i) => {
			const before = versions[i - 1];
			const on = day(String(v.at).slice(0, 10));
			const pushed = before?.deal_id === v.deal_id && before?.close_date && v.close_date && String(v.close_date) > String(before.close_date);
			return pushed && stages.includes(String(v.stage)) && before.stage === v.stage && calendar.between(on, monthOf(on).end) < 3 ? [v.owner_id] : [];
		});
		expect(late.filter((owner) => owner === "maeve").length / late.length).toBeGreaterThan(0.5);
	});
	test("what Tobias commits holds clearly less often than what the others do", () => {
		const held = (mine: boolean) => {
			const fates: boolean[] = [];
			for (let quarter = quarterIndex(day("2026-11-24"), 1) - 8; quarter < quarterIndex(day("2026-11-24"), 1); quarter++) {
				const { start, end } = quarterAt(quarter, 1);
				const at = formatDay(end - 28);
				for (const own of byDeal.values()) {
					const then = own.filter((v) => String(v.at).slice(0, 10) <= at).at(-1);
					if (then?.category !== "commit" || !stages.includes(String(then.stage)) || (then.owner_id === "tobias") !== mine) continue;
					if (String(then.close_date) < formatDay(start) || String(then.close_date) > formatDay(end)) continue;
					fates.push(own.filter((v) => String(v.at).slice(0, 10) <= formatDay(end)).at(-1)?.stage === "Won");
				}
			}
			expect(fates.length).toBeGreaterThan(9);
			return fates.filter(Boolean).length / fates.length;
		};
		expect(held(true)).toBeLessThan(0.6);
		expect(held(false)).toBeGreaterThan(0.8);
	});
	test("tunnel ovens stand half again as long in their trial", () => {
		const family = new Map(rows("deal_lines.csv").map((line) => [line.deal_id, line.family]));
		const mean = (tunnel: boolean) => {
			const lengths = [...byDeal].flatMap(([id, own]) => {
				if ((family.get(id) === "Tunnel ovens") !== tunnel || (!tunnel && family.get(id) !== "Deck and rack ovens")) return [];
				const from = own.find((v) => v.stage === "Trial bake");
				const to = own.find((v) => from && String(v.at) > String(from.at) && v.stage !== "Trial bake");
				return from && to ? [day(String(to.at).slice(0, 10)) - day(String(from.at).slice(0, 10))] : [];
			});
			return lengths.reduce((sum, n) => sum + n, 0) / lengths.length;
		};
		expect(mean(true) / mean(false)).toBeGreaterThan(1.3);
		expect(mean(true) / mean(false)).toBeLessThan(1.9);
	});
	test("deals with nobody who signs are won about half as often", () => {
		const signs = new Set(
			rows("contacts.csv")
				.filter((c) => c.buying_role === "decision_maker")
				.map((c) => c.id),
		);
		const has = new Set(
			rows("deal_contacts.csv")
				.filter((c) => signs.has(c.contact_id ?? ""))
				.map((c) => c.deal_id),
		);
		const won = (with_: boolean) => {
			const ends = [...byDeal].filter(([id, own]) => has.has(id) === with_ && /Won|Lost/.test(String(own.at(-1)?.stage)));
			return ends.filter(([, own]) => own.at(-1)?.stage === "Won").length / ends.length;
		};
		expect(won(false) / won(true)).toBeGreaterThan(0.35);
		expect(won(false) / won(true)).toBeLessThan(0.7);
	});
	test("Luca gives a discount of 12 in a hundred, Celine 3", () => {
		const given = (rep: string) => {
			const own = dealsOf(rep);
			const sum = (price: "list_price" | "unit_price") =>
				rows("deal_lines.csv").reduce((total, line) => total + (own.has(line.deal_id ?? "") ? Number(line.quantity) * Number(line[price]) : 0), 0);
			return 1 - sum("unit_price") / sum("list_price");
		};
		expect(given("luca")).toBeCloseTo(0.12, 1);
		expect(given("celine")).toBeCloseTo(0.03, 1);
		for (const other of REPS) {
			if (other.id === "luca" || other.id === "celine") continue;
			expect(given(other.id)).toBeLessThan(given("luca"));
			expect(given(other.id)).toBeGreaterThan(given("celine"));
		}
	});
	test("what is written about a deal hardly repeats itself", () => {
		const said = new Map<unknown, string[]>();
		for (const { deal_id, subject } of rows("activities.csv")) said.set(deal_id, [...(said.get(deal_id) ?? []), String(subject)]);
		const repeated = [...said.values()].reduce((sum, own) => sum + own.length - new Set(own).size, 0);
		expect(repeated / rows("activities.csv").length).toBeLessThan(0.01);
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
