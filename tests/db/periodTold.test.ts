import { afterAll, beforeAll, beforeEach, describe, expect, test } from "vitest";
import { periodFile } from "@/features/period/server/file";
import { readMadeOf } from "@/features/period/server/madeOf";
import { readPeriod } from "@/features/period/server/readPeriod";
import { GROUPINGS, type GroupingKey } from "@/features/period/table/groupings";
import { resolveViewpoint, type ViewpointQuery } from "@/platform/viewpoint";
import { more, small } from "../kit/bundle";
import { as, freshDatabase, refill } from "../kit/database";
import { faultOf } from "../kit/fault";

// A period told again by hand, from the lines of the files. The day is Tuesday, 24 November 2026.
let database: Awaited<ReturnType<typeof freshDatabase>>;
beforeAll(async () => {
	database = await freshDatabase("period_told");
});
afterAll(() => database.drop());

const TOLD = {
	...more(
		"deals.csv",
		"d4,,Nobody’s,,2026-11-03T09:00:00Z,,,",
		"d5,a2,Won one,Web,2026-10-05T09:00:00Z,,,",
		"d6,a1,Lost one,Web,2026-10-05T09:00:00Z,Hearthmark,Price,",
		"d7,a1,Undated,Web,2026-11-16T09:00:00Z,,,",
		"d8,a1,Behind,Web,2026-09-01T09:00:00Z,,,",
		"d9,a1,Later,Web,2026-11-03T09:00:00Z,,,",
		"d10,a1,This week,Web,2026-11-02T09:00:00Z,,,",
		"d11,a1,Also this week,Web,2026-11-02T09:00:00Z,,,",
		"d12,a1,Omitted,Web,2026-11-02T09:00:00Z,,,",
	),
	...more(
		"deal_versions.csv",
		"d4,2026-11-03T09:00:00Z,Enquiry,50,EUR,2026-12-10,,,,",
		"d5,2026-10-05T09:00:00Z,Terms,900,EUR,2026-11-20,rep2,commit,,",
		"d5,2026-11-12T09:00:00Z,Won,950,EUR,2026-11-12,rep2,commit,,",
		"d6,2026-10-05T09:00:00Z,Survey,300,EUR,2026-11-20,rep1,pipeline,,",
		"d6,2026-11-16T09:00:00Z,Lost,300,EUR,2026-11-16,rep1,pipeline,,",
		"d7,2026-11-16T09:00:00Z,Enquiry,40,EUR,,rep1,pipeline,,",
		"d8,2026-09-01T09:00:00Z,Enquiry,60,EUR,2026-09-15,rep1,pipeline,,",
		"d9,2026-11-03T09:00:00Z,Enquiry,70,EUR,2027-02-01,rep1,pipeline,,",
		"d10,2026-11-02T09:00:00Z,Terms,80,EUR,2026-11-23,rep1,commit,,",
		"d11,2026-11-02T09:00:00Z,Terms,90,EUR,2026-11-27,rep1,commit,,",
		"d12,2026-11-02T09:00:00Z,Terms,10,EUR,2026-11-30,rep1,left_out,,",
	),
	"deal_lines.csv": ["deal_id,product,family,quantity,unit_price,list_price,currency", "d1,Deck oven,Ovens,3,100,110,EUR", "d1,Care,Service,1,100,100,EUR"],
	"targets.csv": [
		"person_id,period_start,period_end,amount,currency,family",
		"rep1,2026-10-01,2026-12-31,9200,EUR,",
		"rep2,2026-10-01,2026-12-31,500,EUR,",
		"rep1,2026-10-01,2026-12-31,2000,EUR,Ovens",
		"rep2,2026-10-01,2026-12-31,300,EUR,Ovens",
		"rep2,2026-10-01,2026-12-31,40,EUR,Proofers",
	],
};
beforeEach(() => refill(small(TOLD)));

async function look(query: ViewpointQuery = {}, by: GroupingKey = "rep", who = "boss") {
	const context = await as(who);
	const view = await readPeriod(context, resolveViewpoint(context, { due: "2026-Q4", ...query }), by);
	if (!view) throw new Error("no period");
	return view;
}

describe("a period by parts", () => {
	const parts = async (by: GroupingKey) =>
		(await look({}, by)).groups.map(({ name, whose, filter, figures }) => [name, whose, filter, figures.open.amount, figures.won.amount, figures.target]);
	test("by rep: everybody with deals or a target, and what nobody has", async () => {
		expect(await parts("rep")).toEqual([
			["Gil Orr", "person:gone", null, 700_00, 0, null],
			["Rae Penn", "person:rep1", null, 1380_00, 0, 9200_00],
			["Sol Quint", "person:rep2", null, 500_00, 950_00, 500_00],
			["No owner", null, "owner.in.No owner", 50_00, 0, null],
		]);
	});
	test("by team: each with its own people alone, and what belongs to none", async () => {
		const teams = await parts("team");
		expect(teams.filter(([, , , open, won]) => open || won)).toEqual([
			["North", "team:North", null, 2080_00, 0, 9200_00],
			["South", "team:South", null, 500_00, 950_00, 500_00],
			["No team", null, null, 50_00, 0, null],
		]);
	});
	test("by territory and kind of customer: what isn’t said stands as such, with the filter that opens it", async () => {
		expect(await parts("territory")).toEqual([
			["Alps", null, "territory.in.Alps", 500_00, 950_00, null],
			["Coast", null, "territory.in.Coast", 2080_00, 0, null],
			["No territory", null, "territory.in.(blank)", 50_00, 0, null],
		]);
		expect(await parts("kind")).toEqual([
			["Not said", null, "customer.in.(blank)", 50_00, 0, null],
			["customer", null, "customer.in.customer", 2080_00, 0, null],
			["prospect", null, "customer.in.prospect", 500_00, 950_00, null],
		]);
	});
	test("by product family: a deal counts in each with its share", async () => {
		expect((await parts("family")).map(([name, , , open, , target]) => [name, open, target])).toEqual([
			["No product lines", 1430_00, null],
			["Ovens", 900_00, 2300_00],
			["Proofers", 0, 40_00],
			["Service", 300_00, null],
		]);
		const north = await look({ whose: "team:North" }, "family");
		expect(north.groups.map(({ name, figures }) => [name, figures.target])).toEqual([
			["No product lines", null],
			["Ovens", 2000_00],
			["Service", null],
		]);
	});
	test("each names what is overdue in it: the deal due on the 23rd, in each part that it belongs to and in no other", async () => {
		const overdue = async (by: GroupingKey, query: ViewpointQuery = {}) =>
			(await look(query, by)).groups.flatMap(({ name, teamMetrics }) => (teamMetrics.overdue ? [`${name} ${teamMetrics.overdue}`] : []));
		expect(await overdue("rep")).toEqual(["Rae Penn 1"]);
		expect(await overdue("team")).toEqual(["North 1"]);
		expect(await overdue("territory")).toEqual(["Coast 1"]);
		expect(await overdue("kind")).toEqual(["customer 1"]);
		expect(await overdue("family")).toEqual(["No product lines 1"]);
		expect(await overdue("kind", { whose: "team:South" })).toEqual([]);
	});
	test("of a team alone leave out what nobody has", async () => {
		for (const { key } of GROUPINGS) {
			const { groups, figures } = await look({ whose: "team:North" }, key);
			expect(groups.reduce((sum, one) => sum + one.figures.open.amount, 0)).toBe(figures.open.amount);
			expect(figures.open.amount).toBe(2080_00);
		}
	});
});

describe("the lists of a period", () => {
	test("name what is due this week and next, by day and then by size", async () => {
		const { dueSoon } = await look();
		expect(dueSoon.map(({ label, from, to, count, amount, deals }) => [label, from, to, count, amount, deals.map(({ name, close }) => [name, close])])).toEqual(
			[
				["this week", "2026-11-24", "2026-11-29", 1, 90_00, [["Also this week", "2026-11-27"]]],
				["next week", "2026-11-30", "2026-12-06", 1, 10_00, [["Omitted", "2026-11-30"]]],
			],
		);
	});
	test("name the biggest of it, largest first, and none that is dated elsewhere", async () => {
		const { biggest } = await look();
		expect(biggest.map(({ name, amount, category }) => [name, amount, category])).toEqual([
			["Deck ovens", 1200_00, "best case"],
			["Left behind", 700_00, "commit"],
			["Mixers", 500_00, "pipeline"],
			["Also this week", 90_00, "commit"],
			["This week", 80_00, "commit"],
			["Nobody’s", 50_00, null],
			["Omitted", 10_00, "left out"],
		]);
		expect(biggest.find(({ name }) => name === "Left behind")?.note).toBe("nobody is acting on");
	});
	test("name what lit up since the earlier day and is open, and what cleared with what became of it", async () => {
		const { litUp, wentOut } = await look({ against: "2026-11-10" });
		// The others that are lit were so on the 10th; what lit up undated or for later doesn’t belong to the period.
		expect(litUp.deals.map(({ name, note }) => [name, note])).toEqual([
			["Deck ovens", null],
			["Mixers", null],
		]);
		expect(wentOut.deals.map(({ name, note }) => [name, note])).toEqual([
			["Won one", "won"],
			["Lost one", "lost"],
		]);
	});
});

describe("a period’s state and pace", () => {
	test("is to come before its first day, running to its last, and over after it", async () => {
		const of = async (seen: string) => (await look({ seen })).state;
		expect([await of("2026-11-24"), await of("2026-10-01"), await of("2026-09-30")]).toEqual(["running", "running", "to come"]);
		expect((await look({ due: "2026-Q3" })).state).toBe("over");
	});
	test("is held against the period before and the one a year ago, each named", async () => {
		const { pace } = await look();
		expect(pace.series.map(({ key, label }) => [key, label])).toEqual([
			["now", "Oct–Dec 2026"],
			["previous", "Jul–Sep 2026"],
			["yearAgo", "Oct–Dec 2025"],
		]);
		expect((await look({ seen: "2026-09-30" })).pace.series[0]?.amounts).toEqual([]);
	});
	test("stands beside those after it, a quarter with its months too", async () => {
		const { periods } = await look({ due: "2026-11" });
		expect(periods.map(({ label, within }) => [label, within])).toEqual(["Nov 2026", "Dec 2026", "Jan 2027", "Feb 2027"].map((label) => [label, false]));
		const quarter = (await look()).periods;
		expect(quarter.filter(({ within }) => within).map(({ label }) => label)).toEqual(["Oct 2026", "Nov 2026", "Dec 2026"]);
		expect(new Set(periods.map(({ key }) => key)).size).toBe(periods.length);
	});
});

test("the file has a row for each rep with what each kind of their deals comes to, and a row a deal", async () => {
	const context = await as("boss");
	const file = await periodFile.read(context, resolveViewpoint(context, { due: "2026-Q4" }), () => undefined);
	const value = (cell: unknown) => (cell !== null && typeof cell === "object" && "value" in cell ? (cell as { value: unknown }).value : cell);
	expect(file.columns.map(({ label }) => label)).toEqual([
		"Rep no.",
		"Rep",
		"Target EUR",
		"Won EUR",
		"Commit EUR",
		"Best case EUR",
		"Pipeline EUR",
		"Left out EUR",
		"Open EUR",
		"Lost EUR",
		"Left behind EUR",
		"Without a date EUR",
	]);
	expect(file.rows.map((row) => row.map(value))).toEqual([
		[1, "Gil Orr", null, 0, 700_00, 0, 0, 0, 700_00, 0, 0, 0],
		[2, "Rae Penn", 9200_00, 0, 170_00, 1200_00, 0, 10_00, 1380_00, 300_00, 60_00, 40_00],
		[3, "Sol Quint", 500_00, 950_00, 0, 0, 500_00, 0, 500_00, 0, 0, 0],
		[4, "No owner", null, 0, 0, 0, 50_00, 0, 50_00, 0, 0, 0],
		[null, "All", 9700_00, 950_00, 870_00, 1200_00, 550_00, 10_00, 2630_00, 300_00, 60_00, 40_00],
	]);
	const [deals] = file.sheets ?? [];
	expect(deals?.columns.map(({ label, kind }) => `${label} ${kind}`)).toEqual([
		"Deal number text",
		"Deal text",
		"Account text",
		"Rep no. count",
		"Rep text",
		"Kind text",
		"Category text",
		"Amount EUR amount",
		"Close date day",
	]);
	expect(deals?.rows.find(([id]) => id === "d12")).toEqual(["d12", "Omitted", "Millrace Bread", 2, "Rae Penn", "open", "left out", 10_00, "2026-11-30"]);
	expect(deals?.rows.find(([id]) => id === "d8")?.slice(5, 7)).toEqual(["left behind", ""]);
	expect(deals?.rows.some(([id]) => id === "d9")).toBe(false);
	const fault = await faultOf(async () => periodFile.read(context, resolveViewpoint(context, { due: "any" }), () => undefined));
	expect(fault).toMatchObject({ status: 400, detail: "Choose a period with a start and an end." });
});

test("what a figure is made of names the targets that it adds up", async () => {
	const context = await as("boss");
	const made = await readMadeOf(context, resolveViewpoint(context, { due: "2026-Q4" }), "target", 10);
	expect(made?.targets.map(({ counts }) => counts).sort((a, b) => a - b)).toEqual([500_00, 9200_00]);
});
