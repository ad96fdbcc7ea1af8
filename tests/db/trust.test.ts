import { eq, sql } from "drizzle-orm";
import { afterAll, beforeAll, beforeEach, describe, expect, test } from "vitest";
import { apiAnswer, fileAnswer } from "@/app/server/answers";
import { connection } from "@/data/db";
import { deals, tasks } from "@/data/schema";
import { readChanges } from "@/features/changes/server/readChanges";
import { editDeals } from "@/features/deals/server/editDeals";
import { exportTable } from "@/features/deals/server/exportTable";
import { readDeals } from "@/features/deals/server/readDeals";
import { readViews, removeView, saveView } from "@/features/deals/server/views";
import { storedBundle } from "@/features/import/server/exportBundle";
import { storeKey } from "@/features/people/server/keys";
import { saveFlags } from "@/features/setup/server/flagSettings";
import { readAudit } from "@/features/setup/server/readAudit";
import { saveStages } from "@/features/setup/server/stageSettings";
import { readDeal } from "@/features/sheet/server/readDeal";
import { changeTask } from "@/features/tasks/server/changeTask";
import { giveTasks } from "@/features/tasks/server/giveTasks";
import { readBundle } from "@/formats/bundle/read";
import { readCsv } from "@/formats/csv";
import { harmless } from "@/formats/table";
import { resolveViewpoint } from "@/platform/viewpoint";
import { as, freshDatabase, importAs, refill } from "../kit/database";
import { faultOf } from "../kit/fault";
import { inspected } from "../kit/inspection";

let database: Awaited<ReturnType<typeof freshDatabase>>;
beforeAll(async () => {
	database = await freshDatabase("trust");
});
beforeEach(() => refill(inspected()));
afterAll(() => database.drop());

describe("the application’s database user", () => {
	test("owns its database and nothing else: no programs, no files, no users", async () => {
		const { db } = connection();
		const { rows } = await db.execute(sql`select rolsuper, rolcreaterole, rolcreatedb from pg_roles where rolname = current_user`);
		expect(rows).toEqual([{ rolsuper: false, rolcreaterole: false, rolcreatedb: false }]);
		for (const statement of ["copy deals to program 'cat'", "copy deals to '/tmp/deals'", "create role other superuser"]) {
			await expect(db.execute(sql.raw(statement))).rejects.toThrow();
		}
	});
});

describe("many at once", () => {
	test("of a dozen who mark a task done, all are told the same, and it is done once", async () => {
		const { tasks: given } = await giveTasks(await as("north"), { dealIds: ["d1"], title: "Call" });
		const id = given[0]?.id ?? "";
		const rep = await as("rep1");
		const done = await Promise.all(Array.from({ length: 12 }, () => changeTask(rep, { id, state: "done", note: "Called" })));
		expect(new Set(done.map((task) => task.doneAt)).size).toBe(1);
		const mixed = await Promise.allSettled(Array.from({ length: 6 }, (_, i) => changeTask(rep, { id, state: i % 2 ? "done" : "dropped" })));
		expect(mixed.filter((one) => one.status === "rejected")).toHaveLength(3);
		const { rows } = await connection().db.execute(sql`select count(*)::int as n from audit where action = 'task changed' and subject = ${id}`);
		expect(rows[0]?.n).toBe(1);
	});
	test("of a dozen who change a deal, one does, and every other is told who changed what", async () => {
		const { versionId } = await readDeal(await as("boss"), "d1", undefined);
		const boss = await as("boss");
		const edits = await Promise.allSettled(
			Array.from({ length: 12 }, (_, i) => editDeals(boss, { targets: [{ id: "d1", versionId }], change: { amount: 100_000 + 100 * i } })),
		);
		const lost = edits.flatMap((one) => (one.status === "rejected" ? [one.reason] : []));
		expect(lost).toHaveLength(11);
		for (const fault of lost) expect(fault).toMatchObject({ status: 412, detail: expect.stringMatching(/^Bo Sable changed Deck ovens since: amount/) });
	});
	test("a write that is sent twice under one name is done once, and answers the same", async () => {
		const once = { ...(await as("north")), once: "form-1" };
		const [first, second] = await Promise.all([1, 2].map(() => giveTasks(once, { dealIds: ["d1"], title: "Call once" })));
		expect(second).toEqual(first);
		expect(await giveTasks(once, { dealIds: ["d1"], title: "Call once" })).toEqual(first);
		expect(await connection().db.select().from(tasks).where(eq(tasks.title, "Call once"))).toHaveLength(1);
		await giveTasks({ ...once, once: "form-2" }, { dealIds: ["d1"], title: "Call once" });
		// Somebody else's name is another.
		await giveTasks({ ...(await as("boss")), once: "form-1" }, { dealIds: ["d1"], title: "Call once" });
		expect(await connection().db.select().from(tasks).where(eq(tasks.title, "Call once"))).toHaveLength(3);
	});
	test("the same deal appears twice is changed once, or said to be there twice", async () => {
		const { versionId } = await readDeal(await as("boss"), "d1", undefined);
		const target = { id: "d1", versionId };
		const outcome = await editDeals(await as("boss"), { targets: [target, target], change: { amount: 5000 } }).then(
			() => "done",
			(error) => error.constructor.name,
		);
		expect(["Fault", "ZodError"]).toContain(outcome);
		const { tasks: given } = await giveTasks(await as("north"), { dealIds: ["d1", "d1"], title: "Twice" });
		expect(given).toHaveLength(1);
	});
});

describe("what can’t be kept is a 4xx that says what is wrong:", () => {
	const ask = async (method: string, path: string, body?: unknown, headers: Record<string, string> = {}) => {
		const { token } = await storeKey(connection().db, "boss", "test");
		const request = new Request(`http://localhost/api/v1/${path}`, {
			method,
			headers: { authorization: `Bearer ${token}`, "content-type": "application/json", ...headers },
			...(body === undefined ? {} : { body: typeof body === "string" ? body : JSON.stringify(body) }),
		});
		const answer = await apiAnswer(request, (path.split("?")[0] as string).split("/"));
		return [answer.status, ((await answer.json()) as { detail: string }).detail] as const;
	};
	test("a zero and half a character, in bodies, queries and addresses", async () => {
		for (const title of ["a\u0000b", "\ud800", "x\udc00"]) {
			const [status, detail] = await ask("POST", "tasks", { dealIds: ["d1"], title });
			expect([status, detail]).toEqual([400, expect.stringMatching(/title contains a character that can’t be stored/)]);
		}
		expect((await ask("GET", "deals?team=%00"))[0]).toBe(400);
		expect((await ask("GET", "deals/a%00"))[0]).toBe(400);
		expect((await ask("POST", "tasks", '{"dealIds":["d1"],"title":"\\ud83d"}'))[0]).toBe(400);
	});
	test("addresses that can’t be decoded, days of another age, names of the language’s own", async () => {
		expect((await ask("GET", "deals/%25E0%A4%"))[0]).toBe(404);
		for (const day of ["0000-01-01", "0001-01-01", "9999-12-31"]) expect([day, (await ask("GET", `deals?as_of=${day}`))[0]]).toEqual([day, 400]);
		for (const name of ["constructor", "__proto__", "toString"]) {
			expect((await ask("GET", `deals?team=${name}`))[0]).toBe(404);
			expect((await ask("GET", `deals/${name}`))[0]).toBe(404);
			expect((await ask("GET", `deals?flag=${name}`))[0]).toBe(400);
		}
	});
	test("days that are written into a deal lie between 1900 and 2200", async () => {
		const { versionId } = await readDeal(await as("boss"), "d1", undefined);
		for (const closeDate of ["0001-01-01", "1899-12-31", "2201-01-01"]) {
			const [status, detail] = await ask("PATCH", "deals/d1", { closeDate, reason: "x" }, { "if-match": String(versionId) });
			expect([status, detail]).toEqual([400, expect.stringMatching(/days from 1900 to 2200/)]);
		}
	});
});

test("a stage called constructor is a stage like any other", async () => {
	const stage = (name: string, kind: "open" | "won" | "lost", was: string | null) => ({
		was,
		name,
		kind,
		probability: kind === "won" ? 1 : kind === "lost" ? 0 : 0.5,
		usualDays: kind === "open" ? 5 : 0,
	});
	await saveStages(await as("ops"), {
		stages: [
			stage("constructor", "open", "Enquiry"),
			stage("__proto__", "open", "Survey"),
			stage("Terms", "open", "Terms"),
			stage("Won", "won", "Won"),
			stage("Lost", "lost", "Lost"),
		],
	});
	const context = await as("boss");
	const view = readDeals(context, resolveViewpoint(context, { due: "any" }));
	expect(view.rows.map((row) => row.stage).sort()).toContain("constructor");
	await saveFlags(await as("ops"), { flags: { stalled: { stages: { constructor: { days: 3 } } } } });
	expect((await readDeal(await as("boss"), "d2", undefined)).stage).toBe("constructor");
});

describe("a spreadsheet", () => {
	test("runs nothing of what goes out, whatever a cell begins with", () => {
		for (const text of ["=1+1", " =1+1", "\n=1+1", "\u00a0@x", "\uff1d1", "\uff0bx", "\uff20x", "\u3000-2", "'=1", "\t+1", "|cmd"])
			expect([text, harmless(text)]).toEqual([text, `'${text}`]);
		for (const text of ["Ovens", "a=b", "5", "(x)", ""]) expect(harmless(text)).toBe(text);
	});
	test("that parts cells by another sign keeps each together", async () => {
		await connection().db.update(deals).set({ name: "Ovens;=cmd|' /C calc'!A0" }).where(eq(deals.id, "d1"));
		await connection().db.execute(sql`update revision set number = number + 1`);
		await connection().db.execute(sql`insert into change_log (revision, deal_id) select number, 'd1' from revision`);
		const context = await as("boss");
		const { bytes } = await exportTable(context, resolveViewpoint(context, { due: "any" }), { form: "csv", columns: ["name"], ids: ["d1"] });
		const text = new TextDecoder().decode(bytes);
		expect(text).toContain("\"Ovens;=cmd|' /C calc'!A0\"");
	});
	test("gets a bundle’s own columns and their names so, and they come back as they were", async () => {
		const files = { "accounts.csv": ["id,name,kind,industry,territory,owner_id,=name()", "a1,Mill,,,,,=1+1", "a2,Oat,,,,,plain"] };
		expect((await importAs(inspected(files))).state).toBe("done");
		const bytes = (await storedBundle()).get("accounts.csv") as Uint8Array;
		const { header, records } = readCsv(bytes);
		expect([header.at(-1), records[0]?.cells.at(-1)]).toEqual(["'=name()", "'=1+1"]);
		const again = readBundle(new Map([["accounts.csv", bytes]]), { timeZone: "UTC", baseCurrency: "EUR" });
		expect(again.bundle.files.get("accounts.csv")?.[0]?.extras).toEqual({ "=name()": "=1+1" });
	});
});

describe("a shared view", () => {
	test("is one line and a query that can be read, is bounded in number, and ops can take it away", async () => {
		const save = async (name: string, query: string) => faultOfZod(async () => saveView(await as("north"), { name, query, shared: true }));
		expect(await save("two\nlines", "due=any")).toMatch(/one line/);
		for (const query of ["due=any\r\nSet-Cookie: x=1", "a b", "x#y", "%", "\\\\host"])
			expect([query, await save("x", query)]).toEqual([query, expect.stringMatching(/query of an address/)]);
		const { id } = await saveView(await as("north"), { name: "Mine", query: "due=any&f=gaps.gt.2", shared: true });
		expect((await faultOf(async () => removeView(await as("view"), { id }))).status).toBe(404);
		expect((await readViews(await as("ops"))).find((view) => view.id === id)?.removable).toBe(true);
		await removeView(await as("ops"), { id });
		expect(await readViews(await as("north"))).toEqual([]);
		const { rows } = await connection().db.execute(sql`select person_id from audit where action = 'view deleted'`);
		expect(rows).toEqual([{ person_id: "ops" }]);
		await connection().db.execute(sql`insert into views (id, owner_id, name, query) select 'v' || n, 'north', 'v', '' from generate_series(1, 100) n`);
		expect((await faultOf(async () => saveView(await as("north"), { name: "More", query: "", shared: false }))).detail).toMatch(/You have 100 views/);
	});
});

async function faultOfZod(work: () => Promise<unknown>): Promise<string> {
	return work().then(
		() => "taken",
		(error) => String(error.message),
	);
}

test("an export of a table stands in the audit, with what and how much of it", async () => {
	const context = await as("boss");
	await exportTable(context, resolveViewpoint(context, { due: "any" }), { form: "csv", columns: ["name"], ids: ["d1", "d2"] });
	const { rows } = await connection().db.execute(sql`select person_id, detail from audit where action = 'table exported'`);
	expect(rows).toEqual([{ person_id: "boss", detail: { table: "deals", rows: 2, seen: "2026-11-24", form: "csv" } }]);
});

test("nobody writes faster than they can mean to", async () => {
	const view = await as("view");
	const outcomes = await Promise.allSettled(Array.from({ length: 640 }, () => removeView(view, { id: "none" })));
	expect(outcomes.filter((one) => one.status === "rejected" && one.reason.status === 429).length).toBeGreaterThanOrEqual(40);
});

describe("a table that is taken away", () => {
	const take = async (person: string, key: string, query = "") => {
		const { token } = await storeKey(connection().db, person, "test");
		const answer = await fileAnswer(new Request(`http://localhost/table/${key}?${query}`, { headers: { authorization: `Bearer ${token}` } }), key);
		return [answer.status, answer.headers.get("content-disposition"), (await answer.text()).replace("\ufeff", "")] as const;
	};
	test("holds what its screen shows, in whole units, with the deal’s number and the day, and adds up to it", async () => {
		const [status, name, changes] = await take("boss", "changes", "due=any&against=2026-11-01");
		expect([status, name]).toEqual([200, 'attachment; filename="changes 2026-11-24.csv"']);
		const { header, records } = readCsv(new TextEncoder().encode(changes));
		expect([header[1], header.at(-1)]).toEqual(["Deal number", "Seen on"]);
		const context = await as("boss");
		const view = readChanges(context, resolveViewpoint(context, { due: "any", against: "2026-11-01" }));
		const sum = records.reduce((all, { cells }) => all + Math.round(Number(cells[5]) * 100), 0);
		expect(sum).toBe((view?.closing ?? 0) - (view?.opening ?? 0));
		await giveTasks(await as("north"), { dealIds: ["d1"], title: "=Call" });
		expect((await take("boss", "tasks"))[2]).toMatch(/'=Call,Rae Penn,.*,open,d1,Deck ovens/);
		expect((await take("boss", "accounts", "due=any"))[2]).toMatch(/a1,Millrace Bread,customer/);
	});
	test("only for those who may see it, and only what they reach; what there is none of is said", async () => {
		expect((await take("rep2", "accounts"))[2]).not.toContain("Millrace Bread");
		expect((await take("boss", "audit"))[0]).toBe(403);
		expect((await take("ops", "audit", "text=import"))[2]).toMatch(/Number,When/);
		expect((await take("boss", "nothing"))[0]).toBe(404);
	});
});

test("the audit is searched by what, by whom and of what", async () => {
	await giveTasks(await as("north"), { dealIds: ["d1"], title: "Find me" });
	await saveView(await as("boss"), { name: "Watchlist", query: "due=any", shared: false });
	const found = async (text: string) => (await readAudit(await as("ops"), { limit: 50, text })).entries.map((entry) => `${entry.who}: ${entry.action}`);
	expect(await found("watchlist")).toEqual(["Bo Sable: view saved"]);
	expect(await found("Nora")).toContain("Nora Thistle: tasks given");
	expect(await found("100%")).toEqual([]);
});
