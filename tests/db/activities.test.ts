import { eq } from "drizzle-orm";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { connection } from "@/data/db";
import { activities } from "@/data/schema";
import { generate } from "@/fakes/emberwick/generate";
import { readAccountPage } from "@/features/accounts/server/accountPage";
import { readActivity } from "@/features/accounts/server/activity";
import { describeDeal } from "@/features/accounts/server/describeDeal";
import { listAccounts } from "@/features/accounts/server/listAccounts";
import { mergeAccounts, unmergeAccounts } from "@/features/accounts/server/mergeAccounts";
import { readActivities } from "@/features/accounts/server/readActivities";
import { settleActivities } from "@/features/accounts/server/settle";
import { logAtAccount } from "@/features/accounts/server/writeAtAccount";
import { readDeals } from "@/features/deals/server/readDeals";
import { readSheet } from "@/features/sheet/server/readSheet";
import { resolveViewpoint } from "@/platform/viewpoint";
import { day } from "../kit/company";
import { as, freshDatabase, importAs } from "../kit/database";
import { faultOf } from "../kit/fault";

let database: Awaited<ReturnType<typeof freshDatabase>>;
beforeAll(async () => {
	database = await freshDatabase("activities");
	await importAs(generate({ today: day("2026-11-24"), deals: 200 }));
});
afterAll(() => database.drop());

const STORY = "acc-001";
const look = async (who: string, asked: Partial<Parameters<typeof readActivities>[2]>, query = {}) => {
	const context = await as(who);
	return readActivities(context, resolveViewpoint(context, query), { span: "four", who: null, limit: 5000, ...asked });
};

describe("a week and a month of activities", () => {
	test("hold what was done, planned and left undone on their days, and nothing else", async () => {
		for (const span of ["week", "month"] as const) {
			const { entries, done, undone, from, to, before, after } = await look("ruth", { span });
			expect(entries?.length).toBeGreaterThan(0);
			for (const { day: on } of entries ?? []) expect(on >= from && on <= to).toBe(true);
			const of = (standing: string) =>
				(entries ?? [])
					.filter((one) => one.standing === standing)
					.map(({ id }) => id)
					.sort();
			expect(of("done")).toEqual(done.map(({ id }) => id).sort());
			expect(of("undone")).toEqual(undone.map(({ id }) => id).sort());
			for (const one of entries ?? []) if (one.standing === "planned") expect(one.day >= "2026-11-24").toBe(true);
			expect((await look("ruth", { span, at: day(before ?? "") })).to < from).toBe(true);
			expect((await look("ruth", { span, at: day(after ?? "") })).from > to).toBe(true);
		}
	});
	test("the weeks of four weeks hold what these hold", async () => {
		const { done, from } = await look("ruth", {});
		const weeks = await Promise.all([0, 7, 14, 21, 28].map((days) => look("ruth", { span: "week", at: day("2026-11-24") - days })));
		const inWeeks = weeks.flatMap(({ entries }) => entries ?? []).filter((one) => one.standing === "done" && one.day >= from);
		expect(inWeeks.map(({ id }) => id).sort()).toEqual(done.map(({ id }) => id).sort());
	});
	test("are narrowed by kind, account and person, to what is so", async () => {
		const all = (await look("ruth", { span: "month" })).entries ?? [];
		const only = async (asked: Partial<Parameters<typeof readActivities>[2]>) =>
			((await look("ruth", { span: "month", ...asked })).entries ?? []).map(({ id }) => id).sort();
		const ids = (list: typeof all) => list.map(({ id }) => id).sort();
		expect(await only({ kind: "call" })).toEqual(ids(all.filter(({ kind }) => kind === "call")));
		expect(await only({ account: "saltMARSH" })).toEqual(ids(all.filter(({ account }) => account?.name.startsWith("Saltmarsh"))));
		expect(await only({ who: "ines" })).toEqual(ids(all.filter(({ person }) => person === "Ines Valdoro")));
		expect(await only({ account: "no such bakery" })).toEqual([]);
	});
});

describe("a planned activity that won’t take place", () => {
	test("is dropped: no contact, nothing planned, still planned on days before; put back it is as it was", async () => {
		const { db } = connection();
		const { id } = await logAtAccount(await as("ines", "2026-11-20"), {
			accountId: STORY,
			kind: "visit",
			direction: "both",
			subject: "See the hall",
			day: "2026-11-27",
		});
		const row = async () => (await db.select().from(activities).where(eq(activities.id, id)))[0];
		const was = await row();
		const touches = async () => (await readActivity(await as("ruth"), { from: "2026-11-01", to: "2026-11-30", owner: "ines" })).people[0];
		const before = await touches();
		await settleActivities(await as("ines"), { what: "dropped", ids: [id] });
		expect(await row()).toMatchObject({ state: "done", direction: "none", droppedFrom: "both" });
		expect(await touches()).toMatchObject({ touches: before?.touches, planned: (before?.planned ?? 0) - 1 });
		const page = async (seen?: string) => {
			const context = await as("ines");
			return readAccountPage(context, resolveViewpoint(context, seen ? { seen } : {}), STORY, { limit: 500 });
		};
		const entry = async (seen?: string) => (await page(seen)).log.find((one) => one.id === id);
		expect(await entry()).toMatchObject({ planned: false, dropped: true, subject: "See the hall" });
		expect((await page()).next?.id).not.toBe(id);
		expect(await entry("2026-11-23")).toMatchObject({ planned: true, dropped: false });
		expect((await faultOf(async () => settleActivities(await as("ines"), { what: "dropped", ids: [id] }))).status).toBe(409);
		await settleActivities(await as("ines"), { what: "planned", ids: [id] });
		expect(await row()).toEqual(was);
	});
});

describe("a deal’s name and account", () => {
	const set = { name: "Rack ovens, four sites", accountId: "acc-002" };
	test("are changed, read as they were on days before, told in the log, and put back", async () => {
		const ines = await as("ines");
		const seen = (await readSheet(ines, "story-rack", "", "")).identity;
		const openOf = async (id: string) => (await listAccounts(await as("helena"), {})).items.find((one) => one.id === id)?.open;
		const [here, there] = [await openOf(STORY), await openOf("acc-002")];
		const amount = (await readSheet(ines, "story-rack", "", "")).amount;
		// Accounts out of reach can’t be chosen, and what somebody else changed meanwhile isn’t written over.
		const strange = [...ines.organisation.accounts.values()].find(({ ownerId }) => ownerId === "celine")?.id ?? "";
		expect((await faultOf(async () => describeDeal(await as("ines"), { dealId: "story-rack", set: { ...set, accountId: strange }, seen }))).status).toBe(404);
		expect((await faultOf(async () => describeDeal(await as("helena"), { dealId: "story-rack", set, seen: { ...seen, name: "Other" } }))).status).toBe(409);
		const { before } = await describeDeal(await as("helena"), { dealId: "story-rack", set, seen });
		expect(before).toEqual(seen);
		expect(await openOf(STORY)).toEqual({ count: (here?.count ?? 0) - 1, amount: (here?.amount ?? 0) - amount });
		expect(await openOf("acc-002")).toEqual({ count: (there?.count ?? 0) + 1, amount: (there?.amount ?? 0) + amount });
		const context = await as("ines");
		const now = await readSheet(context, "story-rack", "", "");
		expect([
			now.name,
			now.accountInfo?.id,
			now.happenings
				.filter(({ kind }) => kind === "change")
				.slice(0, 2)
				.map(({ what }) => what)
				.sort(),
		]).toEqual([set.name, "acc-002", [expect.stringMatching(/^Account Saltmarsh Patisserie → /), `Name ${seen.name} → ${set.name}`]]);
		const past = await readSheet(context, "story-rack", "2026-11-23", "");
		expect([past.name, past.accountInfo?.id]).toEqual([seen.name, STORY]);
		const rows = (day?: string) => readDeals(context, resolveViewpoint(context, day ? { seen: day } : {})).rows.find(({ id }) => id === "story-rack");
		expect([rows()?.name, rows("2026-11-23")?.name, rows("2026-11-23")?.account]).toEqual([set.name, seen.name, "Saltmarsh Patisserie"]);
		const dealsOn = async (id: string, on?: string) => {
			const helena = await as("helena");
			return (await readAccountPage(helena, resolveViewpoint(helena, on ? { seen: on } : {}), id, { limit: 5 })).deals.map((deal) => [deal.id, deal.name]);
		};
		expect([await dealsOn(STORY), await dealsOn("acc-002")].map((list) => list.some(([id]) => id === "story-rack"))).toEqual([false, true]);
		expect(await dealsOn(STORY, "2026-11-23")).toContainEqual(["story-rack", seen.name]);
		// Merging what it came from doesn’t lose where it was.
		const { merge } = await mergeAccounts(await as("helena"), { from: STORY, into: "acc-003" });
		expect(await dealsOn("acc-003", "2026-11-23")).toContainEqual(["story-rack", seen.name]);
		await unmergeAccounts(await as("helena"), { merge });
		expect(await dealsOn(STORY, "2026-11-23")).toContainEqual(["story-rack", seen.name]);
		// It goes back by the one who has the deal, though they have nothing else there.
		await describeDeal(await as("ines"), { dealId: "story-rack", set: seen as typeof set, seen: set });
		expect((await readSheet(await as("ines"), "story-rack", "", "")).identity).toEqual(seen);
		expect(await openOf(STORY)).toEqual(here);
	});
	test("aren’t taken away, and the same again changes nothing", async () => {
		const ines = await as("ines");
		const seen = (await readSheet(ines, "story-rack", "", "")).identity;
		expect((await faultOf(async () => describeDeal(ines, { dealId: "story-rack", set: { name: "x", accountId: null }, seen }))).status).toBe(422);
		const { revision } = (await as("ines")).organisation;
		await describeDeal(await as("ines"), { dealId: "story-rack", set: seen as typeof set, seen });
		expect((await as("ines")).organisation.revision).toBe(revision);
	});
});
