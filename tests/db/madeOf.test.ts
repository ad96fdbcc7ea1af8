import { afterAll, beforeAll, expect, test } from "vitest";
import { readMadeOf } from "@/features/period/server/madeOf";
import { readPeriod } from "@/features/period/server/readPeriod";
import { MADE } from "@/features/period/table/figures";
import { readFollowedTasks, readFollowThrough } from "@/features/tasks/server/followThrough";
import type { Context } from "@/platform/context";
import { resolveViewpoint } from "@/platform/viewpoint";
import { day } from "../kit/company";
import { as, freshDatabase, importAs } from "../kit/database";
import { inspected } from "../kit/inspection";

let database: Awaited<ReturnType<typeof freshDatabase>>;
let contexts: readonly Context[];
beforeAll(async () => {
	database = await freshDatabase("made_of");
	await importAs(
		inspected({
			"tasks.csv": [
				"id,deal_id,title,assignee_id,due_on,created_at,done_at,state,flags",
				"t1,d1,Ask again,rep1,2026-11-20,2026-11-16T09:00:00Z,,open,no-next-step|stalled",
				"t2,d2,Set a date,rep2,2026-11-27,2026-11-16T09:00:00Z,2026-11-20T09:00:00Z,done,stalled",
				"t3,d1,Ring them,rep1,2026-11-18,2026-11-02T09:00:00Z,2026-11-19T09:00:00Z,done,no-next-step",
			],
			"targets.csv": [
				"person_id,period_start,period_end,amount,currency",
				"rep1,2026-10-01,2026-12-31,9200,EUR",
				"rep1,2026-11-01,2027-01-31,100,EUR",
				"rep2,2026-10-01,2026-12-31,500,EUR",
			],
		}),
	);
	contexts = await Promise.all(["boss", "north", "rep1", "ops"].map((who) => as(who)));
});
afterAll(() => database.drop());

test("what a figure of the period is made of adds up to it, for everybody and every period", async () => {
	for (const context of contexts)
		for (const due of ["2026-Q4", "2026-11", "2026-Q3"])
			for (const whose of ["all", `person:${context.actor.person.id}`]) {
				const viewpoint = resolveViewpoint(context, { due, whose });
				const view = await readPeriod(context, viewpoint);
				for (const of of MADE) {
					const made = await readMadeOf(context, viewpoint, of, 1000);
					if (!view || !made) throw new Error("no period");
					const { figures, teamMetrics } = view;
					expect([made.target, made.won, made.gap]).toEqual([figures.target, figures.won.amount, figures.gap]);
					if (made.target !== null) expect(made.targets.reduce((sum, { counts }) => sum + counts, 0)).toBe(made.target);
					if (made.gap !== null) expect(made.gap).toBe((made.target ?? 0) - made.won);
					if (of !== "contacts" && of !== "undone") continue;
					expect(made.count).toBe(of === "contacts" ? (teamMetrics.contacts?.done ?? 0) : (teamMetrics.contacts?.undone ?? 0));
					expect(made.contacts).toHaveLength(made.count);
					if (of === "contacts" && teamMetrics.contacts?.aDay !== null && teamMetrics.contacts)
						expect(made.count / made.workingDays).toBeCloseTo(teamMetrics.contacts.aDay as number);
				}
			}
});

test("a target that reaches beyond the period counts by its days, and says so", async () => {
	const context = contexts[0] as Context;
	const made = await readMadeOf(context, resolveViewpoint(context, { due: "2026-Q4", whose: "person:rep1" }), "target", 10);
	expect(made?.targets.map(({ days, ofDays, amount, counts }) => [days, ofDays, amount, counts])).toEqual([
		[92, 92, 920_000, 920_000],
		[61, 92, 10_000, 6630],
	]);
});

test("the tasks behind each count of follow-through are as many as it says", async () => {
	const context = contexts[0] as Context;
	const [period, seen] = [{ start: day("2026-10-01"), end: day("2026-12-31") }, day("2026-11-24")];
	const counts = readFollowThrough(context, null, period, seen);
	const behind = async (asked: Record<string, string>) => readFollowedTasks(context, null, period, seen, asked);
	expect(await behind({})).toBeNull();
	expect(counts.set).toBe(3);
	for (const became of ["onTime", "late", "dropped", "overdue", "open"] as const) {
		expect([became, (await behind({ became }))?.count]).toEqual([became, counts[became]]);
		for (const person of counts.people) expect((await behind({ became, of: person.id }))?.count).toBe(person[became]);
	}
	for (const outcome of ["out", "closed", "lit", "early", "not_lit"] as const) {
		expect((await behind({ outcome }))?.flags).toBe(counts.outcomes[outcome]);
		for (const flag of counts.flags) expect((await behind({ outcome, flag: flag.code }))?.flags).toBe(flag[outcome]);
	}
	const { out, closed, lit } = counts.outcomes;
	expect((await behind({ outcome: "told" }))?.flags).toBe(out + closed + lit);
	expect((await behind({ of: "nobody" }))?.count).toBe(0);
	expect(await behind({ became: "strange" })).toBeNull();
});
