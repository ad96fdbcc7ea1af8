import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { loadDemo } from "@/cli/demoCompany";
import { monthOf, quarterOf } from "@/core/time/period";
import { USUAL_LOOK } from "@/features/patterns/server/looking";
import { readOutlook } from "@/features/patterns/server/readOutlook";
import { readAccuracy, readForetelling, readStageTimes, STAGE_GROUPS } from "@/features/patterns/server/readPatterns";
import { readPeriodOfApi } from "@/features/period/server/periodJson";
import { wonAndTarget } from "@/features/period/server/wonAndTarget";
import { API_ROUTES } from "@/features/registry";
import { scopeOf } from "@/platform/reach";
import { day } from "../kit/company";
import { as, freshDatabase } from "../kit/database";

// What the demo company's past says: its parts add up, and nobody sees of others more than they may.
let database: Awaited<ReturnType<typeof freshDatabase>>;
beforeAll(async () => {
	database = await freshDatabase("patterns");
	await loadDemo(day("2026-11-24"), () => undefined);
});
afterAll(() => database.drop());

const TODAY = day("2026-11-24");

/** A call of the API with its query as it comes in an address. */
async function ask(id: string, query: Record<string, string> = {}, who = "helena") {
	const call = API_ROUTES.find((one) => one.id === id);
	if (!call?.query || !call.answer) throw new Error(`no call ${id}`);
	const answer = await call.run(await as(who), { query: call.query.parse(query) } as never);
	return call.answer.parse(answer) as Record<string, never>;
}

describe("what foretells", () => {
	test("parts the same deals by flag, level and answer, and finds that the lit are won less often", async () => {
		const view = await readForetelling(await as("helena"), USUAL_LOOK, TODAY);
		expect(view.quarters).toHaveLength(4);
		const all = view.levels.reduce((sum, { n }) => sum + n, 0);
		expect(all).toBeGreaterThan(100);
		for (const flag of view.flags) {
			expect(flag.with.n + flag.without.n).toBe(all);
			expect(flag.lift === null).toBe(flag.with.share === null || !flag.without.share);
		}
		const share = (level: string) => view.levels.find((one) => one.level === level)?.share ?? 0;
		expect(share("act")).toBeGreaterThan(share("calm"));
		expect(view.flags.some(({ lift }) => lift !== null && lift > 1.2)).toBe(true);
	});
	test("is the same through the API, for a rep too; of another look, another", async () => {
		const { items } = await ask("flagRecords", {}, "ines");
		expect(items).toEqual((await readForetelling(await as("helena"), USUAL_LOOK, TODAY)).flags.map(({ name: _, ...one }) => one));
		expect((await ask("flagRecords", { quarters: "2", lead: "5" })).items).not.toEqual(items);
		const answers = (await ask("answerRecords")).items as unknown as { k: number; n: number }[];
		expect(answers.length).toBeGreaterThan(10);
		for (const { k, n } of answers) expect(k).toBeLessThanOrEqual(n);
	});
});

describe("commits", () => {
	test("add up over teams and reps, and a rep is told of their own alone", async () => {
		const helena = await as("helena");
		const whole = readAccuracy(helena, null, "commit", USUAL_LOOK, TODAY);
		expect(whole.people.reduce((sum, { count }) => sum + count.n, 0)).toBe(whole.count.n);
		// By amount of ten deals or more only: what is said adds up to no more than the whole.
		expect(whole.people.every(({ count, amount }) => (amount.k === null) === count.n < 10)).toBe(true);
		expect(whole.people.reduce((sum, { amount }) => sum + (amount.k ?? 0), 0)).toBeLessThanOrEqual(whole.amount.k ?? 0);
		const teams = ["North", "South", "Partners"].map((team) => readAccuracy(helena, scopeOf(helena, team, undefined), "commit", USUAL_LOOK, TODAY).count.n);
		expect(teams.reduce((sum, n) => sum + n, 0)).toBe(whole.count.n);
		const own = (await ask("commitAccuracy", {}, "ines")) as unknown as { people: { id: string }[]; count: { n: number } };
		expect(own.people.map(({ id }) => id)).toEqual(["ines"]);
		expect(own.count.n).toBeLessThan(whole.count.n);
		await expect(ask("commitAccuracy", { owner: "nobody" })).rejects.toMatchObject({ status: 404 });
	});
});

describe("time in stage", () => {
	test("has each visit once by rep, and a rep’s own alone for them", async () => {
		const visits = (items: readonly { finished: number; unfinished: number }[]) =>
			items.reduce((sum, { finished, unfinished }) => sum + finished + unfinished, 0);
		const helena = await as("helena");
		const [rep, family, kind] = STAGE_GROUPS.map((by) => readStageTimes(helena, by, TODAY));
		expect(visits(rep ?? [])).toBeGreaterThan(500);
		expect(visits(kind ?? [])).toBeGreaterThanOrEqual(visits(rep ?? []) - 200);
		expect((family ?? []).length).toBeGreaterThan(3);
		for (const { mean, median, finished, unfinished } of rep ?? []) if (finished + unfinished < 5) expect([mean, median]).toEqual([null, null]);
		const { items } = (await ask("timeInStage", { by: "rep" }, "ines")) as unknown as { items: { group: string }[] };
		expect(new Set(items.map(({ group }) => group))).toEqual(new Set(["ines"]));
	});
});

describe("what is won, and the target", () => {
	test("are for each team and each rep what the period says of them", async () => {
		const helena = await as("helena");
		const period = quarterOf(TODAY, 1);
		for (const asked of [{}, { team: "North" }, { team: "South" }, { team: "Partners" }, { owner: "ines" }, { owner: "tobias" }] as {
			team?: string;
			owner?: string;
		}[]) {
			const { won, target } = readPeriodOfApi(helena, asked);
			expect(wonAndTarget(helena, scopeOf(helena, asked.team, asked.owner), period, TODAY)).toEqual({ won: won.amount, target });
		}
	});
});

describe("the outlook", () => {
	const Q4 = quarterOf(TODAY, 1);
	test("of teams adds up to the whole in what is won and in its mean without the rest; its record is beside it", async () => {
		const helena = await as("helena");
		const of = async (team?: string) => {
			const answer = await readOutlook(helena, scopeOf(helena, team, undefined), Q4, TODAY);
			if (!answer.available) throw new Error(answer.reason);
			return answer;
		};
		const whole = await of();
		expect(whole.deals.length).toBeGreaterThan(50);
		const teams = await Promise.all(["North", "South", "Partners"].map((team) => of(team)));
		expect(teams.reduce((sum, { won }) => sum + won, 0)).toBe(whole.won);
		const nobodys = whole.deals.filter(({ owner }) => owner === "No owner");
		expect(teams.reduce((sum, { deals }) => sum + deals.length, 0)).toBe(whole.deals.length - nobodys.length);
		const bare = ({ mean, fresh, deals, amountRatio }: typeof whole) =>
			mean - fresh - deals.reduce((sum, { owner, chance, amount }) => sum + (owner === "No owner" ? chance * amount * amountRatio : 0), 0);
		expect(Math.abs(teams.reduce((sum, one) => sum + bare(one), 0) - bare(whole))).toBeLessThan(10);
		expect(whole.low).toBeLessThan(whole.high);
		expect(whole.record.periods.length).toBeGreaterThanOrEqual(3);
		expect(whole.record.brier).toBeLessThan(whole.record.baseline ?? 0);
		expect(Math.abs(whole.won + whole.due + whole.elsewhere + whole.fresh - whole.mean)).toBeLessThan(4);
		expect(whole.deals.filter(({ due }) => due)).toHaveLength(whole.dueCount);
		for (const { due, chance, steps } of whole.deals) {
			expect(steps).toHaveLength(due ? 5 : 4);
			expect(chance).toBeGreaterThan(0);
			expect(chance).toBeLessThan(1);
			expect(steps.map(({ n }) => n)).toEqual([...steps.map(({ n }) => n)].sort((a, b) => b - a));
		}
	});
	test("says why there is none; and through the API a rep sees their own deals in it alone", async () => {
		const helena = await as("helena");
		expect(await readOutlook(helena, null, { start: Q4.start, end: Q4.end - 3 }, TODAY)).toEqual({
			available: false,
			reason: expect.stringContaining("a quarter or a month"),
		});
		expect(await readOutlook(helena, null, quarterOf(day("2026-08-01"), 1), TODAY)).toEqual({ available: false, reason: "The period is over." });
		expect((await readOutlook(helena, null, monthOf(TODAY), TODAY)).available).toBe(true);
		const own = (await ask("outlook", {}, "ines")) as unknown as { available: boolean; deals: { id: string }[]; won: number };
		const whole = (await ask("outlook")) as unknown as { deals: { id: string }[]; chanceOfTarget: number; deal: never };
		expect(own.available).toBe(true);
		expect(own.deals.length).toBeLessThan(whole.deals.length);
		expect(Object.keys(whole.deals[0] ?? {}).sort()).toEqual(["amount", "chance", "due", "id", "steps", "swing"]);
		expect(await ask("outlook")).toEqual(whole);
	});
});
