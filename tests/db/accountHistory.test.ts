import { eq } from "drizzle-orm";
import { afterAll, beforeAll, beforeEach, describe, expect, test } from "vitest";
import { connection } from "@/data/db";
import { deals, formerFacts } from "@/data/schema";
import { recordChange } from "@/data/store/changeLog";
import { readAccountPage } from "@/features/accounts/server/accountPage";
import { changeAccount, giveAccounts, makeAccount } from "@/features/accounts/server/editAccounts";
import { listAccounts } from "@/features/accounts/server/listAccounts";
import { mergeAccounts, unmergeAccounts } from "@/features/accounts/server/mergeAccounts";
import { readAccountOfApi } from "@/features/accounts/server/readAccount";
import { readTerritories } from "@/features/accounts/server/readTerritories";
import { readChanges } from "@/features/changes/server/readChanges";
import { packedDealsText } from "@/features/deals/server/packedDeals";
import { readDeals } from "@/features/deals/server/readDeals";
import { Names } from "@/features/import/server/weekly/people";
import { readPeriod } from "@/features/period/server/readPeriod";
import { search } from "@/features/search/server/search";
import { readSheet } from "@/features/sheet/server/readSheet";
import { changeTask } from "@/features/tasks/server/changeTask";
import { giveEach } from "@/features/tasks/server/giveTasks";
import { resolveViewpoint } from "@/platform/viewpoint";
import { small } from "../kit/bundle";
import { as, freshDatabase, importAs, refill } from "../kit/database";
import { faultOf } from "../kit/fault";

// What an account is called, of what kind it is and whose, as it was on each day; and everything that is made of it.
let database: Awaited<ReturnType<typeof freshDatabase>>;
beforeAll(async () => {
	database = await freshDatabase("account_history");
});
beforeEach(() => refill(small()));
afterAll(() => database.drop());

const THEN = "2026-11-20";
const of = async (id: string, asOf?: string) => (await listAccounts(await as("ops"), { as_of: asOf })).items.find((one) => one.id === id);
/** What some screens call an account, seen on a day. */
async function screens(seen?: string) {
	const context = await as("ops");
	const viewpoint = resolveViewpoint(context, { due: "any", ...(seen ? { seen } : {}) });
	const territories = (await readTerritories(context, viewpoint)).rows.map(({ territory }) => territory);
	const [row] = readDeals(context, viewpoint).rows.filter(({ accountId }) => accountId === "a1");
	const period = resolveViewpoint(context, { due: "2026-10-01..2026-12-31", ...(seen ? { seen } : {}) });
	const parts = readChanges(context, period, { by: "territory" })?.parts.map(({ part }) => part) ?? [];
	const groups = (await readPeriod(context, period, "territory"))?.groups.map(({ name }) => name) ?? [];
	return { territories, row: [row?.account, row?.territory, row?.customer], parts, groups };
}

describe("an account that was changed", () => {
	test("reads on days before as it was, on every screen, and as it is now on days after", async () => {
		const was = await of("a1");
		if (!was) throw new Error("no account");
		const before = await screens();
		await changeAccount(await as("ops"), {
			id: "a1",
			versionId: was.versionId,
			change: { name: "Renamed Mill", territory: "Far", kind: "prospect", industry: "Hotel", ownerId: "rep2" },
		});
		expect(await of("a1")).toMatchObject({ name: "Renamed Mill", territory: "Far", kind: "prospect", industry: "Hotel", ownerId: "rep2" });
		const { versionId: _, ...old } = was;
		expect(await of("a1", THEN)).toMatchObject({ name: old.name, territory: old.territory, kind: old.kind, industry: old.industry, ownerId: old.ownerId });
		expect(await readAccountOfApi(await as("ops"), "a1", THEN)).toMatchObject({ name: old.name, kind: old.kind });
		const now = await screens();
		expect(now.territories).toContain("Far");
		expect(now.row).toEqual(["Renamed Mill", "Far", "prospect"]);
		expect(now.groups).toContain("Far");
		const then = await screens(THEN);
		expect(then.territories).toEqual(before.territories);
		expect(then.row).toEqual([old.name, old.territory, old.kind]);
		expect(then.groups).not.toContain("Far");
		const [deal] = readDeals(await as("ops"), resolveViewpoint(await as("ops"), { due: "any" })).rows.filter(({ accountId }) => accountId === "a1");
		expect((await readSheet(await as("ops"), deal?.id ?? "", THEN, "")).account).toBe(old.name);
		expect((await readSheet(await as("ops"), deal?.id ?? "", "", "")).account).toBe("Renamed Mill");
	});
	test("several times on several days reads on each as it was at its end", async () => {
		const own = async (on: string, ownerId: string) => {
			const known = await of("a1");
			await changeAccount(await as("ops", on), { id: "a1", versionId: known?.versionId ?? 0, change: { ownerId } });
		};
		const first = (await of("a1"))?.ownerId;
		await own("2026-11-10", "rep2");
		await own("2026-11-12", "rep1");
		await own("2026-11-12", "rep2");
		await own("2026-11-16", "north");
		const owners = [];
		for (const day of ["2026-11-09", "2026-11-10", "2026-11-11", "2026-11-12", "2026-11-15", "2026-11-16"]) owners.push((await of("a1", day))?.ownerId);
		expect(owners).toEqual([first, "rep2", "rep2", "rep2", "rep2", "north"]);
	});
	test("in a list that was read before says what it says now, though no deal was touched", async () => {
		const packed = async () => packedDealsText(await as("ops"), resolveViewpoint(await as("ops"), { due: "any" }));
		expect(await packed()).not.toContain("Elsewhere");
		const { parts } = await screens();
		expect(parts).not.toContain("Elsewhere");
		const { versionId = 0 } = (await of("a1")) ?? {};
		await changeAccount(await as("ops"), { id: "a1", versionId, change: { territory: "Elsewhere" } });
		expect(await packed()).toContain("Elsewhere");
		expect((await screens()).groups).toContain("Elsewhere");
	});
	test("to the same keeps nothing", async () => {
		const { versionId = 0, name = "", ownerId = null } = (await of("a1")) ?? {};
		await changeAccount(await as("ops"), { id: "a1", versionId, change: { name, ownerId } });
		await giveAccounts(await as("ops"), { to: [{ id: "a1", ownerId }] });
		expect(await connection().db.select().from(formerFacts).where(eq(formerFacts.accountId, "a1"))).toEqual([]);
	});
});

describe("an account that was created here", () => {
	test("wasn’t there on days before", async () => {
		const { id } = await makeAccount(await as("rep1"), { name: "Made today" });
		expect(await of(id)).toMatchObject({ name: "Made today" });
		expect(await of(id, THEN)).toBeUndefined();
		expect(await faultOf(async () => readAccountOfApi(await as("rep1"), id, THEN))).toMatchObject({ status: 404 });
	});
});

describe("an account that was merged", () => {
	test("has what it was before it was changed once the merge is undone", async () => {
		const [gone, stays] = [await of("a2"), await of("a1")];
		await changeAccount(await as("ops"), { id: "a2", versionId: gone?.versionId ?? 0, change: { territory: "Late" } });
		const { merge } = await mergeAccounts(await as("ops"), { from: "a2", into: "a1" });
		expect(await of("a2", THEN)).toBeUndefined();
		expect((await of("a1", THEN))?.territory).toBe(stays?.territory);
		await unmergeAccounts(await as("ops"), { merge });
		expect([(await of("a2"))?.territory, (await of("a2", THEN))?.territory]).toEqual(["Late", gone?.territory]);
	});
});

describe("an account that was merged is known by what it was called", () => {
	test("so that the same bundle, and a weekly file that names it, mean the one that stays", async () => {
		const gone = await of("a2");
		const deals = async (id: string) => (await readAccountOfApi(await as("ops"), id, undefined)).deals.length;
		const own = await deals("a2");
		const had = await deals("a1");
		const { merge } = await mergeAccounts(await as("ops"), { from: "a2", into: "a1" });
		await importAs(small());
		expect(await of("a2")).toBeUndefined();
		expect(await deals("a1")).toBe(had + own);
		const names = async () => new Names(await as("ops"), {}, null);
		expect([(await names()).account(gone?.name ?? ""), (await names()).account("a2")]).toEqual(["a1", "a1"]);
		const hits = await search(await as("ops"), { text: gone?.name ?? "" });
		expect(hits.filter(({ kind }) => kind === "account").map(({ accountId }) => accountId)).toEqual(["a1"]);
		// An account that has the name itself comes first.
		const { id } = await makeAccount(await as("ops"), { name: gone?.name ?? "", ownerId: "rep1" });
		expect((await names()).account(gone?.name ?? "")).toBe(id);
		await unmergeAccounts(await as("ops"), { merge });
		expect((await as("ops")).organisation.accounts.get("a1")?.also).toEqual([]);
		expect(await deals("a2")).toBe(own);
	});
});

describe("an account’s page", () => {
	const page = async (seen?: string, who = "rep1") => {
		const context = await as(who);
		return readAccountPage(context, resolveViewpoint(context, seen ? { seen } : {}), "a1", { limit: 10 });
	};
	test("tells what was changed of the account, by whom, up to the day seen", async () => {
		const { versionId = 0, territory } = (await of("a1")) ?? {};
		await changeAccount(await as("ops", "2026-11-10"), { id: "a1", versionId, change: { territory: "Far", ownerId: "rep2" } });
		await giveAccounts(await as("ops", "2026-11-12"), { to: [{ id: "a1", ownerId: "rep1" }] });
		const { history } = await page();
		expect(history.map(({ on, words }) => [on, words])).toEqual([
			["2026-11-12", ["owner: Sol Quint → Rae Penn"]],
			["2026-11-10", [`territory: ${territory} → Far`, "owner: Rae Penn → Sol Quint"]],
		]);
		expect((await page("2026-11-11")).history.map(({ on }) => on)).toEqual(["2026-11-10"]);
		expect((await page("2026-11-09")).history).toEqual([]);
	});
	test("lists what was open on the day seen, as it was due then", async () => {
		const { tasks } = await giveEach(await as("rep1", "2026-11-10"), { lines: [{ dealId: "d1", title: "Send plans", dueOn: "2026-11-12" }] });
		const id = tasks[0]?.id ?? "";
		await changeTask(await as("rep1", "2026-11-16"), { id, dueOn: "2026-12-01" });
		await changeTask(await as("rep1", "2026-11-20"), { id, state: "done" });
		const openOn = async (seen?: string) => (await page(seen)).open.filter(({ title }) => title === "Send plans").map(({ due, late }) => [due, late]);
		expect(await openOn("2026-11-09")).toEqual([]);
		expect(await openOn("2026-11-11")).toEqual([["2026-11-12", false]]);
		expect(await openOn("2026-11-13")).toEqual([["2026-11-12", true]]);
		expect(await openOn("2026-11-17")).toEqual([["2026-12-01", false]]);
		expect(await openOn("2026-11-20")).toEqual([]);
		expect(await openOn()).toEqual([]);
	});
});

describe("whose an account is", () => {
	const give = async (who: string, id: string, ownerId: string | null) => giveAccounts(await as(who), { to: [{ id, ownerId }] });
	const version = async (id: string) => (await of(id))?.versionId ?? 0;
	const own = async (id: string) => (await of(id))?.ownerId;
	test("is changed by those who lead its owner, not by anybody with a deal there", async () => {
		// A deal of rep1’s at the account of rep2, who is of another team.
		await connection().db.update(deals).set({ accountId: "a2" }).where(eq(deals.id, "d1"));
		await connection().db.transaction((tx) => recordChange(tx, "everything"));
		expect(await own("a2")).toBe("rep2");
		expect(await faultOf(() => give("rep1", "a2", "rep1"))).toMatchObject({ status: 403, detail: expect.stringContaining("belongs to Sol Quint") });
		const change = async (who: string, set: Parameters<typeof changeAccount>[1]["change"]) =>
			changeAccount(await as(who), { id: "a2", versionId: await version("a2"), change: set });
		expect(await faultOf(() => change("rep1", { ownerId: "rep1" }))).toMatchObject({ status: 403 });
		// What else is said of it they may put right.
		await change("rep1", { territory: "Coast" });
		expect(await faultOf(async () => mergeAccounts(await as("north"), { from: "a2", into: "a1" }))).toMatchObject({ status: 403 });
		await give("ops", "a2", "rep1");
		expect(await own("a2")).toBe("rep1");
	});
	test("that was nobody’s, or somebody’s out of reach, is put back by who took it, and by nobody else", async () => {
		await give("ops", "a1", null);
		const { before } = await give("north", "a1", "rep1");
		expect(before).toEqual([{ id: "a1", ownerId: null }]);
		expect(await faultOf(() => give("rep1", "a1", null))).toMatchObject({ status: 403 });
		await giveAccounts(await as("north"), { to: before });
		expect(await own("a1")).toBeNull();
		// Only the last change is undone so: what was so before it isn’t.
		expect(await faultOf(() => give("north", "a1", "rep2"))).toMatchObject({ status: 403 });
		await changeAccount(await as("north"), { id: "a1", versionId: await version("a1"), change: { ownerId: "north" } });
		await changeAccount(await as("north"), { id: "a1", versionId: await version("a1"), change: { ownerId: null } });
		expect(await own("a1")).toBeNull();
	});
});
