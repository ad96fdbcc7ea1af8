import { eq } from "drizzle-orm";
import { afterAll, beforeAll, beforeEach, describe, expect, test } from "vitest";
import { routeAnswer } from "@/app/server/routes";
import { connection } from "@/data/db";
import { accounts, activities, contacts, deals, dealVersions } from "@/data/schema";
import { mergeAccounts } from "@/features/accounts/server/mergeAccounts";
import { storedBundle } from "@/features/import/server/exportBundle";
import { pushRows } from "@/features/import/server/push/pushRows";
import { storeKey } from "@/features/people/server/keys";
import { readDeal } from "@/features/sheet/server/readDeal";
import { small } from "../kit/bundle";
import { as, freshDatabase, refill } from "../kit/database";

// What another system pushes, row by row, by its own ids: the same rules as a bundle, each row whole or not at all.
let database: Awaited<ReturnType<typeof freshDatabase>>;
beforeAll(async () => {
	database = await freshDatabase("push");
});
beforeEach(() => refill(small()));
afterAll(() => database.drop());

type Row = Parameters<typeof pushRows>[1]["rows"][number];
const push = async (kind: string, ...rows: Row[]) => pushRows(await as("ops"), { kind, rows });
const versions = (id: string) => connection().db.select().from(dealVersions).where(eq(dealVersions.dealId, id)).orderBy(dealVersions.validFrom);
const NEW = {
	id: "sys-1",
	accountId: "a1",
	name: "Pushed ovens",
	stage: "Survey",
	amount: 1_250_050,
	currency: "EUR",
	closeDate: "2026-12-18",
	ownerId: "rep1",
	category: "commit",
};

describe("a deal that is pushed", () => {
	test("is created with its first version, seen at once, and the same again changes nothing", async () => {
		expect(await push("deals", NEW)).toEqual([{ id: "sys-1", fate: "created", problems: [] }]);
		expect(await readDeal(await as("rep1"), "sys-1", undefined)).toMatchObject({
			name: "Pushed ovens",
			stage: "Survey",
			amount: 1_250_050,
			closeDate: "2026-12-18",
			ownerId: "rep1",
		});
		const before = await storedBundle();
		expect(await push("deals", NEW)).toEqual([{ id: "sys-1", fate: "updated", problems: [] }]);
		expect(await storedBundle()).toEqual(before);
	});
	test("keeps what isn’t given, and has a next version only where its state differs", async () => {
		await push("deals", NEW);
		await push("deals", { id: "sys-1", stage: "Terms" }, { id: "d1", name: "Renamed" });
		expect((await versions("sys-1")).map(({ stage, amount, closeDate }) => [stage, amount, closeDate])).toEqual([
			["Survey", 1_250_050, "2026-12-18"],
			["Terms", 1_250_050, "2026-12-18"],
		]);
		const [deal] = await connection().db.select().from(deals).where(eq(deals.id, "d1"));
		expect(deal).toMatchObject({ name: "Renamed", accountId: "a1" });
		await push("deals", { id: "sys-1", nextStep: null, amount: null });
		expect((await versions("sys-1")).at(-1)).toMatchObject({ amount: null, stage: "Terms" });
		const count = (await versions("d1")).length;
		await push("deals", { id: "d1", name: "Renamed again" });
		expect(await versions("d1")).toHaveLength(count);
	});
	test("tells since when its state is so, also of late", async () => {
		await push("deals", { ...NEW, createdAt: "2026-11-02T08:00:00Z", at: "2026-11-02T08:00:00Z" });
		await push("deals", { id: "sys-1", stage: "Terms", at: "2026-11-10T08:00:00Z" });
		expect((await versions("sys-1")).map(({ validFrom, stage }) => [validFrom.toISOString().slice(0, 10), stage])).toEqual([
			["2026-11-02", "Survey"],
			["2026-11-10", "Terms"],
		]);
		expect(await readDeal(await as("rep1"), "sys-1", "2026-11-09")).toMatchObject({ stage: "Survey" });
	});
});

describe("rows that can’t be written", () => {
	test("are refused each with its field and reason; the others of the batch are written", async () => {
		const fates = await push(
			"deals",
			{ ...NEW, id: "ok" },
			{ ...NEW, id: "stage", stage: "Nowhere" },
			{ ...NEW, id: "owner", ownerId: "nobody" },
			{ ...NEW, id: "date", closeDate: "2026-13-45" },
			{ id: "bare", name: "No stage" },
			{ ...NEW, id: "field", colour: "red" },
			{ ...NEW, id: "ok", name: "Twice" },
			{ name: "No id" },
			{ ...NEW, id: "future", at: "2030-01-01T00:00:00Z" },
		);
		expect(fates.map(({ id, fate, problems }) => [id, fate, problems[0]?.field])).toEqual([
			["ok", "created", undefined],
			["stage", "refused", "stage"],
			["owner", "refused", "ownerId"],
			["date", "refused", "closeDate"],
			["bare", "refused", "stage"],
			["field", "refused", "colour"],
			["ok", "refused", "id"],
			["", "refused", "id"],
			["future", "refused", "at"],
		]);
		for (const { fate, problems } of fates) if (fate === "refused") expect(problems[0]?.reason.length).toBeGreaterThan(5);
		// Nothing of a refused row is written, not its other half either.
		const ids = (await connection().db.select({ id: deals.id }).from(deals)).map(({ id }) => id);
		expect(ids.filter((id) => !/^d\d/.test(id))).toEqual(["ok"]);
		for (const id of ["stage", "owner", "date", "bare", "field", "future"]) expect(await versions(id), id).toEqual([]);
	});
	test("of a deal that is there leave it as it was", async () => {
		const before = await storedBundle();
		expect(await push("deals", { id: "d1", name: "Half", stage: "Nowhere" })).toMatchObject([{ fate: "refused" }]);
		expect(await storedBundle()).toEqual(before);
	});
});

describe("accounts, contacts and activities", () => {
	test("are pushed in any order that a batch allows, and are known by other systems’ ids", async () => {
		expect(await push("accounts", { id: "crm-7", name: "Seventh Mill", kind: "prospect", territory: "Coast", ownerId: "rep1" })).toMatchObject([
			{ fate: "created" },
		]);
		expect(
			await push(
				"contacts",
				{ id: "c-1", accountId: "crm-7", name: "Ann Lee", email: "ann@seventh.example" },
				{ id: "c-2", accountId: "crm-7", name: "Bo Ray", reportsToId: "c-1" },
			),
		).toMatchObject([{ fate: "created" }, { fate: "created" }]);
		const call = {
			id: "act-1",
			accountId: "crm-7",
			contactIds: ["c-1"],
			kind: "call",
			direction: "both",
			state: "done",
			at: "2026-11-20T10:00:00Z",
			byId: "rep1",
			subject: "Hello",
		};
		expect(await push("activities", call)).toMatchObject([{ fate: "created" }]);
		expect((await as("ops")).organisation.accounts.get("crm-7")).toMatchObject({ name: "Seventh Mill", ownerId: "rep1" });
		expect(await connection().db.select().from(activities).where(eq(activities.id, "act-1"))).toMatchObject([{ contactIds: ["c-1"], subject: "Hello" }]);
		expect(await push("activities", { ...call, subject: "Hello again" })).toMatchObject([{ fate: "updated" }]);
		expect(await push("contacts", { id: "c-2", title: "Baker" })).toMatchObject([{ fate: "updated" }]);
		expect(await connection().db.select().from(contacts).where(eq(contacts.id, "c-2"))).toMatchObject([{ name: "Bo Ray", title: "Baker", reportsToId: "c-1" }]);
	});
	test("are refused by the row that is wrong, also below texts of several lines", async () => {
		const row = { accountId: "a1", kind: "call", direction: "both", state: "done", at: "2026-11-20T10:00:00Z", byId: "rep1", subject: "Hello" };
		const fates = await push(
			"activities",
			{ ...row, id: "l-1", body: "One\nTwo\r\nThree; four" },
			{ ...row, id: "l-2", body: "x", dealId: "none" },
			{ ...row, id: "l-3", body: "a;b\nc;d" },
			{ ...row, id: "l-4", body: "y" },
			{ ...row, id: "l-5", body: "z", byId: "nobody" },
		);
		expect(fates.map(({ id, fate }) => [id, fate])).toEqual([
			["l-1", "created"],
			["l-2", "refused"],
			["l-3", "created"],
			["l-4", "created"],
			["l-5", "refused"],
		]);
		expect(await push("accounts", { id: "semi;colon" }, { id: "a1" })).toMatchObject([{ id: "semi;colon", fate: "created" }, { fate: "updated" }]);
	});
	test("of an account that was merged mean the one that stays", async () => {
		await mergeAccounts(await as("ops"), { from: "a2", into: "a1" });
		expect(await push("deals", { ...NEW, accountId: "a2" })).toMatchObject([{ fate: "created" }]);
		expect(await connection().db.select().from(deals).where(eq(deals.id, "sys-1"))).toMatchObject([{ accountId: "a1" }]);
		await push("accounts", { id: "a2", name: "Back again" });
		expect(await connection().db.select().from(accounts).where(eq(accounts.id, "a2"))).toEqual([]);
	});
});

describe("over the API", () => {
	const call = async (who: string, method: string, path: string, body: unknown) => {
		const { token } = await storeKey(connection().db, who, "test");
		const request = new Request(`http://127.0.0.1/api/v1/${path}`, {
			method,
			headers: { authorization: `Bearer ${token}`, "content-type": "application/json" },
			body: JSON.stringify(body),
		});
		const answer = (await routeAnswer(method, `/api/v1/${path}`, () => request)) as Response;
		return [answer.status, await answer.json()] as const;
	};
	test("one row is put at its address, many go as a batch with each one’s fate; those who don’t import may not", async () => {
		const { id, ...row } = NEW;
		expect(await call("ops", "PUT", `deals/${id}`, row)).toEqual([200, { id, fate: "created", problems: [] }]);
		expect(await call("ops", "PUT", `deals/${id}`, { ...row, id: "other" })).toMatchObject([422, { title: "Two ids" }]);
		expect(await call("ops", "PUT", `deals/${id}`, { stage: "Nowhere" })).toMatchObject([
			422,
			{ title: "Not written", detail: expect.stringContaining("stage") },
		]);
		expect(await call("ops", "POST", "batches/deals", { items: [NEW, { ...NEW, id: "x", stage: "?" }] })).toMatchObject([
			200,
			{ items: [{ fate: "updated" }, { fate: "refused" }] },
		]);
		for (const who of ["rep1", "boss", "view"]) expect((await call(who, "PUT", `deals/${id}`, row))[0], who).toBe(403);
		expect((await call("ops", "POST", "batches/deals", { items: [] }))[0]).toBe(400);
	});
	test("a thousand rows are written at once, and no more are taken", async () => {
		const rows = Array.from({ length: 1000 }, (_, i) => ({ ...NEW, id: `m-${i}`, amount: i }));
		const fates = await push("deals", ...rows);
		expect(fates.filter(({ fate }) => fate === "created")).toHaveLength(1000);
		await expect(push("deals", ...rows, NEW)).rejects.toThrow(/at most 1000 rows/);
	});
});
