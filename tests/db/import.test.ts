import { sql } from "drizzle-orm";
import { afterAll, beforeAll, beforeEach, describe, expect, test } from "vitest";
import { connection } from "@/data/db";
import { generate } from "@/fakes/emberwick/generate";
import { storedBundle } from "@/features/import/server/exportBundle";
import { more, SMALL, small } from "../kit/bundle";
import { day } from "../kit/company";
import { freshDatabase, importAs } from "../kit/database";
import { zipFiles } from "../kit/zip";

let database: Awaited<ReturnType<typeof freshDatabase>>;
beforeAll(async () => {
	database = await freshDatabase("import");
});
afterAll(() => database.drop());
const TABLES =
	"import_extras, deal_contacts, deal_lines, orders, answers, activities, quotes, tasks, deal_versions, deals, contacts, targets, accounts, people, teams, stages, questions, holidays, rates, marks, organisation";
const empty = () => connection().db.execute(sql.raw(`truncate ${TABLES} cascade`));
beforeEach(empty);

const text = async () => Object.fromEntries([...(await storedBundle())].map(([name, bytes]) => [name, new TextDecoder().decode(bytes)]));
const count = async (table: string) => Number((await connection().db.execute(sql.raw(`select count(*) from ${table}`))).rows[0]?.count);

describe("an import", () => {
	test("that is written is in the audit, whoever asked for it, with what it changed; one that is refused isn’t", async () => {
		const told = async () => (await connection().db.execute(sql`select subject, detail from audit where action = 'bundle imported' order by id desc`)).rows;
		const before = (await told()).length;
		await importAs(small({ "deals.csv": ["id,account_id"] }));
		expect(await told()).toHaveLength(before);
		const { id } = await importAs(small());
		expect((await told())[0]).toMatchObject({ subject: id, detail: { name: "test.zip", changed: { "deals.csv": 3 } } });
	});
	test("says what it read and what it changed; the second time nothing", async () => {
		const first = await importAs(small());
		expect(first).toMatchObject({ state: "done", problemCount: 0, counts: { "deals.csv": 3, "deal_versions.csv": 4 }, changed: { "deals.csv": 3 } });
		const before = await text();
		const revision = await connection().db.execute(sql`select number from revision`);
		const again = await importAs(small());
		expect(Object.values(again.changed).every((n) => n === 0)).toBe(true);
		expect(await text()).toEqual(before);
		expect((await connection().db.execute(sql`select number from revision`)).rows).toEqual(revision.rows);
	});
	test("then export, then import into an empty database, then export is the same to the byte", async () => {
		const source = generate({ today: day("2026-11-24"), deals: 60 });
		expect(await importAs(source)).toMatchObject({ state: "done", problems: [] });
		const out = await storedBundle();
		await empty();
		expect(await importAs(zipFiles(out))).toMatchObject({ state: "done" });
		expect(await text()).toEqual(Object.fromEntries([...out].map(([name, bytes]) => [name, new TextDecoder().decode(bytes)])));
	});
	test("keeps every field, awkward text and unknown columns too", async () => {
		const body = '"=cmd()|""quoted"" שלום 🥐\n<b>two lines</b>"';
		await importAs(
			small({
				"accounts.csv": ["mood,id,name,kind,industry,territory,owner_id", "sunny,a1,'=Mill,customer,,,rep1", ",a2,=Oat,prospect,,,rep2"],
				"activities.csv": [
					"id,deal_id,account_id,contact_ids,kind,direction,state,at,by_id,subject,body",
					`x1,d1,a1,,call,both,done,2026-11-05T09:00:00.25Z,rep1,Hi,${body}`,
				],
				"orders.csv": ["account_id,date,product,amount,currency", "a1,2026-01-05,Oven,10.50,EUR", "a1,2026-01-05,Oven,10.50,EUR"],
			}),
		);
		const out = await text();
		expect(out["accounts.csv"]).toBe("id,name,kind,industry,territory,owner_id,also,mood\na1,'=Mill,customer,,,rep1,,sunny\na2,'=Oat,prospect,,,rep2,,\n");
		expect(out["activities.csv"]).toContain('"\'=cmd()|""quoted"" שלום 🥐\n<b>two lines</b>"');
		expect(out["activities.csv"]).toContain("2026-11-05T09:00:00.250Z");
		expect(out["orders.csv"]?.match(/a1,2026-01-05,Oven,10.5,EUR/g)).toHaveLength(2);
	});
	test("leaves what a file has no column for as it is, names too", async () => {
		await importAs(small());
		const before = await text();
		await importAs(small({ "accounts.csv": ["id,kind", "a1,customer"], "deals.csv": ["id,created_at", "d1,2026-11-03T09:00:00Z"] }));
		const after = await text();
		const named = (files: Record<string, string>, file: string, id: string) => files[file]?.split("\n").find((line) => line.startsWith(`${id},`));
		expect(named(after, "accounts.csv", "a1")).toBe(named(before, "accounts.csv", "a1"));
		expect(named(after, "deals.csv", "d1")?.split(",")[2]).toBe(named(before, "deals.csv", "d1")?.split(",")[2]);
	});
	test("gives the same whatever order the rows come in", async () => {
		await importAs(small());
		const straight = await text();
		await empty();
		await importAs(
			small(
				Object.fromEntries(
					Object.entries(SMALL).map(([name, lines]) => [name, name.endsWith("json") ? lines : [lines[0] as string, ...lines.slice(1).reverse()]]),
				),
			),
		);
		expect(await text()).toEqual(straight);
	});
	test("adds an older version in its place, and keeps one current version a deal", async () => {
		await importAs(small());
		await importAs(small(more("deal_versions.csv", "d1,2026-11-05T09:00:00Z,Enquiry,1100,EUR,2026-12-01,rep1,pipeline,,")));
		const rows = await connection().db.execute(sql`select valid_from, valid_to from deal_versions where deal_id = 'd1' order by valid_from`);
		expect(rows.rows.map((r) => r.valid_to)).toEqual([rows.rows[1]?.valid_from, rows.rows[2]?.valid_from, null]);
	});
	test("takes over a person made by hand, who keeps password and keys", async () => {
		const { db } = connection();
		await db.execute(sql`insert into people (id, name, email, role, password_hash) values ('ops@firm.example', 'oda', 'ops@firm.example', 'ops', 'kept')`);
		await db.execute(sql`insert into api_keys (id, person_id, name, token_hash, hint) values ('k1', 'ops@firm.example', 'k', 'h', 'lamp')`);
		expect(await importAs(small())).toMatchObject({ state: "done" });
		const people = await db.execute(sql`select id, name, password_hash from people where email = 'ops@firm.example'`);
		expect(people.rows).toEqual([{ id: "ops", name: "Oda Pell", password_hash: "kept" }]);
		expect((await db.execute(sql`select person_id from api_keys`)).rows).toEqual([{ person_id: "ops" }]);
	});
	test("lets stages swap places", async () => {
		await importAs(small());
		const swapped = (SMALL["stages.csv"] ?? []).map((line) =>
			line.replace("1,Enquiry", "9,Enquiry").replace("2,Survey", "1,Survey").replace("9,Enquiry", "2,Enquiry"),
		);
		expect(await importAs(small({ "stages.csv": swapped }))).toMatchObject({ state: "done", changed: { "stages.csv": 2 } });
	});
});

describe("a bundle with problems", () => {
	const bad = more("deal_versions.csv", "d2,2026-11-12T09:00:00Z,Nowhere,1,EUR,,rep2,,,", "d2,2026-11-13T09:00:00Z,Survey,1,EUR,,rep2,,,");
	test("is refused whole: nothing is written", async () => {
		const report = await importAs(small(bad));
		expect(report).toMatchObject({ state: "refused", problemCount: 1, problems: [{ file: "deal_versions.csv", line: 6, column: "stage", value: "Nowhere" }] });
		expect(await count("people")).toBe(0);
		expect(await count("deal_versions")).toBe(0);
	});
	test("goes in without its bad rows only when the person says so", async () => {
		expect(await importAs(small(bad), { skipBad: true })).toMatchObject({ state: "done", problemCount: 1 });
		expect(await count("deal_versions")).toBe(5);
	});
	test("leaves out what depends on a bad row as well", async () => {
		const deals = more("deals.csv", "d4,a9,Lost account,Web,2026-11-02T09:00:00Z,,,");
		const versions = more("deal_versions.csv", "d4,2026-11-12T09:00:00Z,Survey,1,EUR,,rep2,,,");
		expect(await importAs(small({ ...deals, ...versions }), { skipBad: true })).toMatchObject({ state: "done", problemCount: 2 });
		expect(await count("deals")).toBe(3);
	});
	test("that lacks a column or a file isn’t taken even so", async () => {
		expect(await importAs(small({ "stages.csv": null }), { skipBad: true })).toMatchObject({ state: "refused" });
		expect(await importAs(small({ "deals.csv": ["id;name", "d1;x"] }), { skipBad: true })).toMatchObject({ state: "refused" });
		expect(await count("people")).toBe(0);
	});
	test("a dry run writes nothing, and a broken zip is a report, not a crash", async () => {
		expect(await importAs(small(), { dryRun: true })).toMatchObject({ state: "checked", counts: { "deals.csv": 3 } });
		expect(await importAs(new TextEncoder().encode("no zip"))).toMatchObject({
			state: "refused",
			problems: [{ file: "test.zip", reason: "this isn’t a zip, or it is damaged" }],
		});
		expect(await count("people")).toBe(0);
	});
	test("a failure while writing leaves nothing behind", async () => {
		await connection().db.execute(sql.raw("alter table marks add constraint never check (name <> 'Boom')"));
		await expect(importAs(small({ "marks.csv": ["at,name", "2026-11-01T08:00:00Z,Boom"] }))).rejects.toThrow();
		await connection().db.execute(sql.raw("alter table marks drop constraint never"));
		expect(await count("people")).toBe(0);
		const [row] = (await connection().db.execute(sql`select state, problems from imports order by started_at desc limit 1`)).rows;
		expect(row).toMatchObject({ state: "failed" });
	});
});
