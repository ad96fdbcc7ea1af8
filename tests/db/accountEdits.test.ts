import { eq, sql } from "drizzle-orm";
import { afterAll, beforeAll, beforeEach, describe, expect, test } from "vitest";
import { connection } from "@/data/db";
import { accounts, audit, contacts, dealContacts, orders } from "@/data/schema";
import { recordChange } from "@/data/store/changeLog";
import { readAccountLog } from "@/features/accounts/server/accountLog";
import { changeAccount, giveAccounts, makeAccount } from "@/features/accounts/server/editAccounts";
import { changeContact, listContacts, makeContact } from "@/features/accounts/server/editContacts";
import { listAccounts } from "@/features/accounts/server/listAccounts";
import { makeDeal, unmakeDeal } from "@/features/accounts/server/makeDeal";
import { mergeAccounts, previewAccountMerge, unmergeAccounts } from "@/features/accounts/server/mergeAccounts";
import { readAccountOfApi } from "@/features/accounts/server/readAccount";
import { noteAtAccount } from "@/features/accounts/server/writeAtAccount";
import { logActivity } from "@/features/sheet/server/logActivity";
import { readSheet } from "@/features/sheet/server/readSheet";
import { more, small } from "../kit/bundle";
import { day } from "../kit/company";
import { as, freshDatabase, refill } from "../kit/database";
import { allDeals } from "../kit/deals";
import { faultOf } from "../kit/fault";

let database: Awaited<ReturnType<typeof freshDatabase>>;
beforeAll(async () => {
	database = await freshDatabase("account_edits");
});
beforeEach(() =>
	refill(
		small({
			...more("accounts.csv", "a3,Millrace Bread,customer,Bakery,Coast,rep1", "blank,,prospect,Inn,Alps,rep2"),
			...more("deals.csv", "d4,a3,Peels,Web,2026-11-03T09:00:00Z,,,", "d5,blank,Racks,Web,2026-11-03T09:00:00Z,,,"),
			...more(
				"deal_versions.csv",
				"d4,2026-11-03T09:00:00Z,Enquiry,100,EUR,2026-12-10,rep1,pipeline,,",
				"d5,2026-11-03T09:00:00Z,Enquiry,100,EUR,2026-12-10,rep2,pipeline,,",
			),
			"contacts.csv": [
				"id,account_id,name,title,email,buying_role,reports_to_id",
				"c1,a1,Ana Rue,,,decision_maker,",
				"c2,a1,Ben Orr,,,user,c1",
				"c3,a1,Cid Poe,,,user,c2",
				"c4,a3,Dee Loo,,,champion,",
			],
			"activities.csv": [
				"id,deal_id,account_id,contact_ids,kind,direction,state,at,by_id,subject,body",
				"x1,,a3,c4,call,both,done,2026-11-12T09:00:00Z,rep1,Beside,",
				"x2,d4,a3,c4,call,both,done,2026-11-13T09:00:00Z,rep1,On it,",
			],
			"orders.csv": ["account_id,date,product,amount,currency", "a1,2026-03-01,Oven,1000,EUR", "a3,2026-04-01,Oven,500,EUR", "a3,2026-05-01,Peel,20,EUR"],
		}),
	),
);
afterAll(() => database.drop());

const of = async (id: string) => (await listAccounts(await as("ops"), {})).items.find((one) => one.id === id);

describe("an account", () => {
	test("is made with the person who makes it as its owner, and named everywhere once it is renamed", async () => {
		const { id } = await makeAccount(await as("rep1"), { name: "Quay Mill" });
		expect(await of(id)).toMatchObject({ name: "Quay Mill", kind: "prospect", ownerId: "rep1", versionId: 1, lastContact: null });
		await changeAccount(await as("rep2"), { id: "blank", versionId: 1, change: { name: "Named now", territory: null } });
		expect(await of("blank")).toMatchObject({ name: "Named now", territory: null, industry: "Inn", versionId: 2 });
		const blank = (await allDeals(await as("rep2"), {})).find(({ id: deal }) => deal === "d5");
		expect(blank?.flags.find(({ code }) => code === "blank-fields")?.evidence ?? "").not.toContain("account name");
	});
	test("isn’t overwritten where somebody was quicker, nor given to who isn’t theirs to give to", async () => {
		await changeAccount(await as("rep1"), { id: "a1", versionId: 1, change: { industry: "Bread" } });
		expect(await faultOf(async () => changeAccount(await as("north"), { id: "a1", versionId: 1, change: { industry: "Cake" } }))).toMatchObject({
			status: 412,
		});
		expect(await of("a1")).toMatchObject({ industry: "Bread", versionId: 2 });
		const give = (who: string, ownerId: string | null) => faultOf(async () => changeAccount(await as(who), { id: "a1", versionId: 2, change: { ownerId } }));
		expect(await give("rep1", "rep2")).toMatchObject({ status: 403 });
		expect(await give("north", null)).toMatchObject({ status: 403 });
		expect(await give("boss", "nobody")).toMatchObject({ status: 404 });
		await changeAccount(await as("boss"), { id: "a1", versionId: 2, change: { ownerId: "rep2" } });
		expect((await listAccounts(await as("rep2"), {})).items.map(({ id }) => id)).toContain("a1");
		expect((await connection().db.select().from(audit).where(eq(audit.subject, "a1"))).map(({ action }) => action)).toEqual([
			"account changed",
			"account changed",
		]);
	});
	test("is given to another with several at once, all or none", async () => {
		expect(await faultOf(async () => giveAccounts(await as("north"), { to: ["a1", "a2"].map((id) => ({ id, ownerId: "rep1" })) }))).toMatchObject({
			status: 404,
		});
		const { before } = await giveAccounts(await as("boss"), { to: ["a1", "a3"].map((id) => ({ id, ownerId: "rep2" })) });
		expect(before).toEqual([
			{ id: "a1", ownerId: "rep1" },
			{ id: "a3", ownerId: "rep1" },
		]);
		expect((await of("a3"))?.ownerId).toBe("rep2");
		await giveAccounts(await as("boss"), { to: before });
		expect((await of("a3"))?.ownerId).toBe("rep1");
	});
});

describe("a contact", () => {
	test("is made and changed as it was seen; somebody who changes company reports to nobody there, and their past stays", async () => {
		const made = await makeContact(await as("rep1"), { accountId: "a1", name: "Eve Tan", reportsToId: "c3", email: "eve@bread.example" });
		expect((await listContacts(await as("rep1"), "a1", { limit: 10 })).items.map(({ id }) => id)).toContain(made.id);
		const moved = await changeContact(await as("boss"), { id: "c3", versionId: 1, change: { accountId: "a3", title: "Head baker" } });
		expect(moved).toMatchObject({ accountId: "a3", reportsToId: null, title: "Head baker", versionId: 2 });
		expect(await faultOf(async () => changeContact(await as("boss"), { id: "c3", versionId: 1, change: { title: "Baker" } }))).toMatchObject({ status: 412 });
		expect((await readAccountLog(await as("ops"), "a3", day("2026-11-24"), {}, { limit: 10 })).items).toHaveLength(2);
	});
	test("in a circle of reporting lines is refused with the circle named; to somebody of another account too", async () => {
		const change = (id: string, reportsToId: string) => faultOf(async () => changeContact(await as("rep1"), { id, versionId: 1, change: { reportsToId } }));
		expect(await change("c1", "c3")).toMatchObject({ status: 422, detail: "Reporting lines can’t go in a circle: Ana Rue → Cid Poe → Ben Orr → Ana Rue." });
		expect(await change("c1", "c1")).toMatchObject({ status: 422, detail: "Reporting lines can’t go in a circle: Ana Rue → Ana Rue." });
		expect(await change("c1", "c4")).toMatchObject({ status: 404 });
		expect((await changeContact(await as("rep1"), { id: "c3", versionId: 1, change: { reportsToId: "c1" } })).reportsToId).toBe("c1");
		expect(await faultOf(async () => makeContact(await as("rep2"), { accountId: "a1", name: "Eve" }))).toMatchObject({ status: 404 });
	});
	test("whose part changes had the other one on the days before", async () => {
		await changeContact(await as("rep1"), { id: "c1", versionId: 1, change: { buyingRole: "blocker" } });
		const role = async (asOf?: string) => (await readAccountOfApi(await as("ops"), "a1", asOf)).contacts.find(({ id }) => id === "c1")?.buyingRole;
		expect([await role(), await role("2026-11-20")]).toEqual(["blocker", "decision_maker"]);
	});
	test("who changed company, name or whom they report to is on days before where and as they were", async () => {
		const people = async (account: string, asOf?: string) =>
			(await readAccountOfApi(await as("ops"), account, asOf)).contacts.map(({ id, name, title, reportsToId }) => [id, name, title, reportsToId]);
		const before = await people("a1");
		await changeContact(await as("boss", "2026-11-16"), { id: "c3", versionId: 1, change: { name: "Cid Poe-Rue", title: "Baker" } });
		await changeContact(await as("boss", "2026-11-18"), { id: "c3", versionId: 2, change: { accountId: "a3", title: "Head baker" } });
		expect(await people("a1", "2026-11-15")).toEqual(before);
		expect((await people("a1", "2026-11-17")).find(([id]) => id === "c3")).toEqual(["c3", "Cid Poe-Rue", "Baker", "c2"]);
		for (const on of ["2026-11-18", undefined]) {
			expect((await people("a1", on)).map(([id]) => id)).not.toContain("c3");
			expect((await people("a3", on)).find(([id]) => id === "c3")).toEqual(["c3", "Cid Poe-Rue", "Head baker", null]);
		}
		expect((await people("a3", "2026-11-17")).map(([id]) => id)).not.toContain("c3");
		const { id } = await makeContact(await as("boss", "2026-11-18"), { accountId: "a1", name: "New Here" });
		expect([(await people("a1")).map(([one]) => one), (await people("a1", "2026-11-17")).map(([one]) => one)].map((all) => all.includes(id))).toEqual([
			true,
			false,
		]);
	});
});

describe("two accounts that are one", () => {
	test("are merged after a preview that says what moves, and all of it has moved", async () => {
		await noteAtAccount(await as("rep1"), { accountId: "a3", body: "Two doors down" });
		const preview = await previewAccountMerge(await as("boss"), { from: "a3", into: "a1" });
		expect(preview.counts).toEqual({ deals: 1, contacts: 1, activities: 2, notes: 1, files: 0, tasks: 0, orders: 2 });
		const [one, other] = [await of("a1"), await of("a3")];
		await mergeAccounts(await as("boss"), { from: "a3", into: "a1" });
		expect(await of("a3")).toBeUndefined();
		const merged = await of("a1");
		expect(merged?.open.count).toBe((one?.open.count ?? 0) + (other?.open.count ?? 0));
		expect(merged?.open.amount).toBe((one?.open.amount ?? 0) + (other?.open.amount ?? 0));
		expect(merged?.bought.last365).toBe((one?.bought.last365 ?? 0) + (other?.bought.last365 ?? 0));
		expect(merged?.lastContact).toBe("2026-11-13");
		expect((await readAccountOfApi(await as("rep1"), "a1", undefined)).deals.map(({ id }) => id).sort()).toEqual(["d1", "d4"]);
	});
	test("are two again when it is undone, once, as they were before", async () => {
		const whole = [await of("a1"), await of("a3")];
		const rows = async () => [
			await connection().db.select().from(orders).orderBy(orders.accountId, orders.ordinal),
			await connection().db.select().from(contacts).orderBy(contacts.id),
		];
		const stored = await rows();
		const { merge } = await mergeAccounts(await as("ops"), { from: "a3", into: "a1" });
		await unmergeAccounts(await as("ops"), { merge });
		expect(await rows()).toEqual(stored);
		expect([await of("a1"), await of("a3")].map((account) => ({ ...account, versionId: 0 }))).toEqual(whole.map((account) => ({ ...account, versionId: 0 })));
		expect(await faultOf(async () => unmergeAccounts(await as("ops"), { merge }))).toMatchObject({ status: 409 });
	});
	test("aren’t merged with themselves, nor while somebody has changed the one that is to stay", async () => {
		const boss = await as("boss");
		expect(await faultOf(async () => mergeAccounts(boss, { from: "a1", into: "a1" }))).toMatchObject({ status: 422 });
		await changeAccount(await as("rep1"), { id: "a1", versionId: 1, change: { industry: "Bread" } });
		expect(await faultOf(async () => mergeAccounts(boss, { from: "a3", into: "a1" }))).toMatchObject({ status: 412 });
		expect(await faultOf(async () => mergeAccounts(await as("north"), { from: "a2", into: "a1" }))).toMatchObject({ status: 404 });
		const [row] = await connection().db.select({ n: sql<number>`count(*)::int` }).from(accounts);
		expect(row?.n).toBe(4);
	});
});

describe("a deal made at an account", () => {
	test("stands in the first stage, owned by the person who made it, on every screen; and is taken back while nothing was done with it", async () => {
		const { id } = await makeDeal(await as("rep1"), { accountId: "a1", name: "Second oven", amount: 120_000, closeDate: "2026-12-20" });
		const deal = (await allDeals(await as("rep1"), {})).find((one) => one.id === id);
		expect(deal).toMatchObject({
			name: "Second oven",
			stage: "Enquiry",
			amount: 120_000,
			currency: "EUR",
			closeDate: "2026-12-20",
			ownerId: "rep1",
		});
		expect((await readAccountOfApi(await as("rep1"), "a1", undefined)).deals.map((one) => one.id)).toContain(id);
		expect(await faultOf(async () => unmakeDeal(await as("boss"), { id }))).toMatchObject({ status: 409 });
		await unmakeDeal(await as("rep1"), { id });
		expect((await allDeals(await as("rep1"), {})).map((one) => one.id)).not.toContain(id);
		expect(await faultOf(async () => unmakeDeal(await as("rep1"), { id: "d1" }))).toMatchObject({ status: 409 });
	});
	test("that has begun is not taken back; one is made for people of one’s own alone, who work here", async () => {
		const { id } = await makeDeal(await as("north"), { accountId: "a1", name: "Peels", ownerId: "rep1" });
		await logActivity(await as("rep1"), { dealId: id, kind: "call", direction: "both", subject: "First call" });
		expect(await faultOf(async () => unmakeDeal(await as("north"), { id }))).toMatchObject({ status: 409 });
		const make = (given: object) => faultOf(async () => makeDeal(await as("north"), { accountId: "a1", name: "Peels", ...given }));
		expect(await make({ ownerId: "rep2" })).toMatchObject({ status: 404 });
		expect(await make({ ownerId: "gone" })).toMatchObject({ status: 422 });
		expect(await make({ accountId: "a2" })).toMatchObject({ status: 404 });
	});
});

test("a deal’s sheet says that nobody of ours knows who signs, until somebody does", async () => {
	await connection().db.insert(dealContacts).values({ dealId: "d1", contactId: "c1" });
	await connection().db.transaction((tx) => recordChange(tx, ["d1"]));
	const missing = async () => (await readSheet(await as("rep1"), "d1", "", "")).missing;
	expect(await missing()).toContain("somebody of ours who knows who signs");
	await logActivity(await as("rep1"), { dealId: "d1", kind: "call", direction: "both", subject: "Met the owner", contactIds: ["c1"] });
	expect(await missing()).not.toContain("somebody of ours who knows who signs");
});
