import { and, eq, inArray } from "drizzle-orm";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { worksOn } from "@/core/people/person";
import { connection } from "@/data/db";
import { activities, tasks } from "@/data/schema";
import { generate } from "@/fakes/emberwick/generate";
import { readAccountPage } from "@/features/accounts/server/accountPage";
import { listAccounts } from "@/features/accounts/server/listAccounts";
import { mergeAccounts, unmergeAccounts } from "@/features/accounts/server/mergeAccounts";
import { readCare } from "@/features/accounts/server/readCare";
import { storedBundle } from "@/features/import/server/exportBundle";
import { readHabits, saveHabits } from "@/features/setup/server/habitSettings";
import { changeTask } from "@/features/tasks/server/changeTask";
import { giveEach, takeBackTasks } from "@/features/tasks/server/giveTasks";
import { giveKit, readKits, saveKit } from "@/features/tasks/server/kits";
import { readTasks } from "@/features/tasks/server/readTasks";
import { reachOf } from "@/platform/reach";
import { resolveViewpoint } from "@/platform/viewpoint";
import { day } from "../kit/company";
import { as, freshDatabase, importAs } from "../kit/database";
import { faultOf } from "../kit/fault";

let database: Awaited<ReturnType<typeof freshDatabase>>;
beforeAll(async () => {
	database = await freshDatabase("care");
	await importAs(generate({ today: day("2026-11-24"), deals: 400 }));
});
afterAll(() => database.drop());

const care = async (who: string, look: Partial<Parameters<typeof readCare>[2]> = {}, query = {}) => {
	const context = await as(who);
	return readCare(context, resolveViewpoint(context, { due: "any", ...query }), { limit: 5000, ...look });
};
const ids = (rows: readonly { id: string }[]) => rows.map(({ id }) => id).sort();

describe("care for accounts without a deal", () => {
	test("holds only accounts without an open deal, with the figures the list of accounts has", async () => {
		const { rows, count, counts } = await care("helena");
		expect(rows.length).toBe(count);
		expect(count).toBeGreaterThan(10);
		const list = new Map((await listAccounts(await as("helena"), {})).items.map((one) => [one.id, one]));
		for (const row of rows) {
			const one = list.get(row.id);
			expect(one?.open.count).toBe(0);
			expect(row).toMatchObject({ lastContact: one?.lastContact ?? null, bought: one?.bought });
			expect(row.why.includes("risk")).toBe(one?.atRisk);
			if (row.why.includes("silent") && row.since !== null) expect(row.since).toBeGreaterThan(row.rhythm);
		}
		for (const why of ["new", "risk", "silent", "lost"] as const) expect((await care("helena", { why })).count).toBe(counts[why]);
	});
	test("everyone’s is that of the teams together, each once, and reps see their own", async () => {
		const all = ids((await care("helena")).rows);
		const teams = await Promise.all(["team:North", "team:South", "team:Partners"].map(async (whose) => ids((await care("helena", {}, { whose })).rows)));
		expect(all).toEqual(expect.arrayContaining([...new Set(teams.flat())]));
		const ines = (await care("ines")).rows;
		for (const { owner } of ines) expect(owner).toBe("Ines Valdoro");
	});
	test("is narrowed by kind, territory and owner, and ordered by what was bought", async () => {
		const { rows, choices } = await care("helena");
		const worth = rows.map(({ bought }) => bought.last365 + bought.before365);
		expect(worth).toEqual([...worth].sort((a, b) => b - a));
		const [territory] = choices.territories;
		expect(ids((await care("helena", { territory })).rows)).toEqual(ids(rows.filter((row) => row.territory === territory)));
		const [owner] = choices.owners;
		expect(ids((await care("helena", { owner, kind: "customer" })).rows)).toEqual(ids(rows.filter((row) => row.owner === owner && row.kind === "customer")));
	});
	test("follows the days that are set, and goes along in a bundle", async () => {
		const before = readHabits(await as("arno"));
		const silent = (await care("helena", { why: "silent" })).count;
		await saveHabits(await as("arno"), { ...before, care: { customer: 10, prospect: 10 } });
		expect((await care("helena", { why: "silent" })).count).toBeGreaterThan(silent);
		expect(JSON.parse(new TextDecoder().decode((await storedBundle()).get("settings.json"))).careDays).toEqual({ customer: 10, prospect: 10 });
		await saveHabits(await as("arno"), before);
		expect((await care("helena", { why: "silent" })).count).toBe(silent);
		expect(JSON.parse(new TextDecoder().decode((await storedBundle()).get("settings.json"))).careDays).toBeUndefined();
	});
});

describe("tasks at an account", () => {
	const five = async () => (await care("helena", { why: "silent" })).rows.slice(0, 5);
	test("five silent customers get a kit each, to their owners; a later change of the kit changes nothing of it; undone they are gone", async () => {
		const rows = await five();
		const accountIds = rows.map(({ id }) => id);
		const [kit] = (await readKits(await as("helena"))).filter(({ id }) => id === "kit-first-weeks");
		const given = await giveKit(await as("helena"), { id: "kit-first-weeks", accountIds });
		expect(given.tasks).toHaveLength(5 * (kit?.steps.length ?? 0));
		const { people, accounts } = (await as("helena")).organisation;
		for (const { accountId, dealId, assigneeId, title } of given.tasks) {
			const account = accounts.get(accountId ?? "");
			expect(dealId).toBeNull();
			expect(title).not.toContain("{account}");
			const owner = people.find(({ id }) => id === account?.ownerId);
			expect(assigneeId).toBe(owner && worksOn(owner, day("2026-11-24")) ? owner.id : "helena");
		}
		const seen = await five();
		expect(seen.map(({ task }) => task?.more)).toEqual(rows.map(() => (kit?.steps.length ?? 0) - 1));
		if (!kit) throw new Error("no kit");
		await saveKit(await as("arno"), { ...kit, steps: kit.steps.map((step) => ({ ...step, title: "Something else" })) });
		expect((await five()).map(({ task }) => task?.title)).toEqual(seen.map(({ task }) => task?.title));
		const context = await as("helena");
		const listed = (await readTasks(context, reachOf(context.organisation, context.actor), context.now.day)).filter(
			({ accountId }) => accountId === accountIds[0],
		);
		expect(listed.map(({ account }) => account)).toEqual(listed.map(() => rows[0]?.name));
		const page = await readAccountPage(context, resolveViewpoint(context, {}), accountIds[0] ?? "", { limit: 5 });
		expect(page.open.filter(({ dealId }) => dealId === null)).toHaveLength(kit.steps.length);
		await takeBackTasks(await as("helena"), { ids: given.tasks.map(({ id }) => id) });
		expect((await five()).map(({ task }) => task)).toEqual(rows.map(() => null));
	});
	test("isn’t given for an account out of reach, nor for a deal and an account at once", async () => {
		const context = await as("ines");
		const strange = [...context.organisation.accounts.values()].find(({ ownerId }) => ownerId === "celine")?.id ?? "";
		const line = { dealId: null, accountId: strange, title: "Call", dueOn: "2026-11-27" };
		expect((await faultOf(async () => giveEach(await as("ines"), { lines: [line] }))).status).toBe(404);
		expect((await faultOf(async () => giveKit(await as("ines"), { id: "kit-first-weeks", accountIds: [strange] }))).status).toBe(404);
		expect((await faultOf(async () => giveEach(await as("ruth"), { lines: [{ ...line, dealId: "story-rack", accountId: "acc-001" }] }))).status).toBe(422);
		expect((await faultOf(async () => giveKit(await as("ruth"), { id: "kit-first-weeks" }))).status).toBe(400);
	});
	test("is done by logging a call at the account, follows a merge, and is exported", async () => {
		const { db } = connection();
		const { tasks: made } = await giveEach(await as("ines"), {
			lines: [{ dealId: null, accountId: "acc-001", title: "Ring {account}", dueOn: "2026-11-27", asks: "call" }],
		});
		const id = made[0]?.id ?? "";
		expect(made[0]).toMatchObject({ title: "Ring Saltmarsh Patisserie", accountId: "acc-001", assigneeId: "ines" });
		expect(new TextDecoder().decode((await storedBundle()).get("tasks.csv"))).toMatch(new RegExp(`^${id},.*,acc-001`, "m"));
		const { merge } = await mergeAccounts(await as("helena"), { from: "acc-001", into: "acc-002" });
		expect((await db.select({ account: tasks.accountId }).from(tasks).where(eq(tasks.id, id)))[0]?.account).toBe("acc-002");
		await unmergeAccounts(await as("helena"), { merge });
		await changeTask(await as("ines"), { id, state: "done", log: { kind: "call", direction: "both", subject: "They are well", contactIds: [] } });
		const found = await db
			.select()
			.from(activities)
			.where(and(eq(activities.accountId, "acc-001"), eq(activities.subject, "They are well")));
		expect(found).toMatchObject([{ dealId: null, direction: "both", byId: "ines" }]);
		expect(
			(
				await db
					.select()
					.from(tasks)
					.where(inArray(tasks.id, [id]))
			)[0]?.state,
		).toBe("done");
	});
});
