import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { readChanges } from "@/features/changes/server/readChanges";
import { countAct, readDeals } from "@/features/deals/server/readDeals";
import { resolveViewpoint, type ViewpointQuery } from "@/platform/viewpoint";
import { SMALL, small } from "../kit/bundle";
import { as, freshDatabase, importAs } from "../kit/database";

const VERSIONS = [
	...(SMALL["deal_versions.csv"] ?? []),
	"d2,2026-11-18T09:00:00Z,Survey,450,EUR,2027-01-20,rep2,pipeline,,",
	"d3,2026-11-19T09:00:00Z,Won,710,EUR,2026-11-19,gone,commit,,",
	"d4,2026-11-12T09:00:00Z,Enquiry,90,EUR,2026-12-05,rep1,pipeline,,",
	"d5,2026-10-12T09:00:00Z,Enquiry,,EUR,,rep1,pipeline,,",
	"d6,2026-10-12T09:00:00Z,Survey,40,EUR,2026-09-15,,pipeline,,",
];
const DEALS = [...(SMALL["deals.csv"] ?? []), ...["d4", "d5", "d6"].map((id) => `${id},a1,,Web,2026-10-12T09:00:00Z,,,`)];

let database: Awaited<ReturnType<typeof freshDatabase>>;
beforeAll(async () => {
	database = await freshDatabase("changes");
	await importAs(small({ "deal_versions.csv": VERSIONS, "deals.csv": DEALS }));
});
afterAll(() => database.drop());

const ask = async (person: string, query: ViewpointQuery = {}) => {
	const context = await as(person);
	const viewpoint = resolveViewpoint(context, { due: "2026-Q4", against: "2026-11-09", ...query });
	return { context, viewpoint };
};
const changes = async (person: string, query?: ViewpointQuery) => {
	const { context, viewpoint } = await ask(person, query);
	const view = readChanges(context, viewpoint);
	if (!view) throw new Error("no bridge");
	return view;
};
const deals = async (person: string, query?: ViewpointQuery) => {
	const { context, viewpoint } = await ask(person, query);
	return readDeals(context, viewpoint);
};

describe("changes", () => {
	test("show each step with its deals before and after", async () => {
		const view = await changes("boss");
		const step = (kind: string) => view.steps.find((s) => s.kind === kind);
		expect([view.opening, view.closing]).toEqual([220_050, 129_000]);
		expect(step("pushed-out")).toMatchObject({
			name: "Pushed out",
			leaves: true,
			amount: 45_000,
			deals: [
				{
					id: "d2",
					before: 50_000,
					after: 45_000,
					closeBefore: "2026-12-10",
					closeAfter: "2027-01-20",
					stageBefore: "Enquiry",
					stageAfter: "Survey",
					owner: "Sol Quint",
				},
			],
		});
		expect(step("shrank")).toMatchObject({ amount: 5_000, deals: [{ id: "d2", amount: 5_000 }] });
		expect(step("won")).toMatchObject({ amount: 71_000, deals: [{ id: "d3", before: 70_000, after: 71_000 }] });
		expect(step("new")).toMatchObject({ amount: 9_000, deals: [{ id: "d4", name: "No name", before: null, stageBefore: null }] });
		expect(step("grew")?.deals.map((d) => [d.id, d.amount, d.also])).toEqual([
			["d1", 19_950, ["pipeline → best case"]],
			["d3", 1_000, []],
		]);
	});
	test("by rep add up to the whole change", async () => {
		const view = await changes("boss");
		expect(view.parts.map(({ part, net }) => [part, net])).toEqual([
			["Gil Orr", -70_000],
			["Sol Quint", -50_000],
			["Rae Penn", 28_950],
		]);
		expect(view.headline).toBe("Open pipeline fell by €911 in 11 working days");
	});
	test("of a team are those of its people, also of one who has left", async () => {
		expect((await changes("north")).steps.find((s) => s.kind === "won")?.deals).toHaveLength(1);
		expect((await changes("boss", { whose: "person:rep2" })).parts).toMatchObject([{ part: "Sol Quint", net: -50_000 }]);
	});
	test("seen in the past end there", async () => {
		const view = await changes("boss", { seen: "2026-11-13", against: "2026-11-09" });
		expect(view.steps.filter((s) => s.deals.length && s.kind !== "opening" && s.kind !== "closing").map((s) => s.kind)).toEqual(["new", "grew"]);
		expect(view.steps.at(-1)?.name).toBe("Fri 13 Nov");
	});
	test("need a period with dates", async () => {
		const { context, viewpoint } = await ask("boss", { due: "none" });
		expect(readChanges(context, viewpoint)).toBeNull();
	});
});

describe("deals", () => {
	test("are those open and due in the period, and what is carried over; what it leaves out is counted", async () => {
		const view = await deals("boss");
		expect(view.rows.map((r) => r.id).sort()).toEqual(["d1", "d4", "d6"]);
		expect(view.also).toEqual({ before: 0, after: 1, undated: 1 });
		expect((await deals("boss", { due: "none" })).rows.map((r) => r.id)).toEqual(["d5"]);
		expect((await deals("boss", { due: "..2026-09-30" })).rows.map((r) => r.id)).toEqual(["d6"]);
		expect((await deals("boss", { due: "any" })).rows.map((r) => r.id).sort()).toEqual(["d1", "d2", "d4", "d6"]);
	});
	test("carry what changed since, and say new where there was nothing", async () => {
		const { rows } = await deals("boss");
		expect(rows.map((r) => [r.id, r.change]).sort()).toEqual([
			["d1", 19_950],
			["d4", null],
			["d6", 0],
		]);
	});
	test("blank names, amounts and owners are said, never a crash or a silent nothing", async () => {
		const [blank] = (await deals("boss", { due: "none" })).rows;
		expect(blank).toMatchObject({ name: "No name", amount: 0, amountBlank: true, close: null });
		expect(blank?.flags.find((f) => f.code === "blank-fields")?.label).toBe("Blank: amount, close date, contact");
		const [unowned] = (await deals("boss", { due: "..2026-09-30" })).rows;
		expect(unowned).toMatchObject({ owner: "No owner", ownerId: null, ownerActive: false });
	});
	test("without an owner are seen by those who see everyone’s, and by nobody else", async () => {
		expect((await deals("north", { due: "any" })).rows.map((r) => r.id)).not.toContain("d6");
		expect((await deals("ops", { due: "any" })).rows.map((r) => r.id)).toContain("d6");
	});
	test("the count beside the rail’s word is the number of those at act", async () => {
		const { context, viewpoint } = await ask("boss", { due: "any" });
		expect(countAct(context, viewpoint)).toBe(readDeals(context, viewpoint).rows.filter((r) => r.level === "act").length);
	});
});
