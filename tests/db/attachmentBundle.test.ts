import { sql } from "drizzle-orm";
import { afterAll, beforeAll, beforeEach, describe, expect, test } from "vitest";
import { connection } from "@/data/db";
import { attachments, fileContents } from "@/data/schema";
import { sumOf } from "@/data/store/contents";
import { STORES } from "@/data/store/tables";
import { attachFile, attachLink, removeAttachment } from "@/features/attachments/server/attach";
import { bundleFiles, storedBundle } from "@/features/import/server/exportBundle";
import { zipStream } from "@/formats/bundle/write";
import { bundleOf, SMALL, small } from "../kit/bundle";
import { as, freshDatabase, importAs, refill } from "../kit/database";

let database: Awaited<ReturnType<typeof freshDatabase>>;
beforeAll(async () => {
	database = await freshDatabase("attachment_bundle");
});
beforeEach(() => refill(small()));
afterAll(() => database.drop());

const bytes = (text: string) => new TextEncoder().encode(text);
const PLAN = bytes("%PDF-1.7 a plan of the hall");
const add = async (who: string, place: Parameters<typeof attachFile>[1]["place"], name = "Plan.pdf", content = PLAN) =>
	attachFile(await as(who), { place, name, bytes: content });

describe("in a bundle", () => {
	const exported = async () => {
		const parts: Uint8Array[] = [];
		for await (const part of zipStream(bundleFiles(await storedBundle())) as unknown as AsyncIterable<Uint8Array>) parts.push(part);
		return new Uint8Array(Buffer.concat(parts));
	};
	test("files and links come back as they were, with what they hold; imported twice nothing changes", async () => {
		const { id } = await add("rep1", { dealId: "d1" });
		await add("rep1", { accountId: "a1" }, "Other.txt", bytes("other"));
		await attachLink(await as("rep1"), { place: { dealId: "d1" }, url: "https://files.example/plan", name: "A drawing" });
		await removeAttachment(await as("rep1"), { id });
		const rows = () => connection().db.select().from(attachments).orderBy(attachments.id);
		const before = await rows();
		const zip = await exported();
		await connection().db.execute(sql`truncate attachments, file_contents`);
		expect(await importAs(zip)).toMatchObject({ state: "done", changed: { "attachments.csv": 3 } });
		expect(await rows()).toEqual(before);
		expect((await connection().db.select().from(fileContents)).map(({ sha256 }) => sha256).sort()).toEqual([sumOf(PLAN), sumOf(bytes("other"))].sort());
		expect((await importAs(zip)).changed["attachments.csv"]).toBe(0);
		expect(await exported()).toEqual(zip);
	});
	const HEAD = "id,deal_id,account_id,activity_id,name,url,type,size,sha256,added_at,by_id,removed_at";
	const taken = async (line: string, contents: Record<string, string> = {}) =>
		(await importAs(bundleOf({ ...SMALL, "attachments.csv": [HEAD, line], ...contents }))).problems.map(({ column, reason }) => `${column}: ${reason}`).join();
	test("what can’t be is refused in words", async () => {
		const sum = sumOf(bytes("held"));
		const at = "2026-11-20T09:00:00Z,rep1,";
		expect(await taken(`f1,d1,,,Plan,,text/plain,4,${sum},${at}`)).toMatch(/sha256: its content isn’t in the bundle/);
		expect(await taken(`f1,d1,,,Plan,,text/plain,4,${sum},${at}`, { [`files/${sum}`]: "forged" })).toMatch(/sha256: its content isn’t in the bundle/);
		expect(await taken(`f1,d1,,,Plan,,text/plain,4,${sum},${at}`, { [`files/${sum}`]: "held" })).toBe("");
		expect(await taken(`f2,d1,,,Link,javascript:alert(1),,,,${at}`)).toMatch(/url: a link starts with https/);
		expect(await taken(`f2,d1,a1,,Link,https://x.example,,,,${at}`)).toMatch(/deal_id: a file belongs to a deal or to an account/);
		expect(await taken(`f2,d1,,,Both,https://x.example,,4,${sum},${at}`)).toMatch(/url: a link has an address/);
		expect(await taken(`f2,d1,,,Huge,,text/plain,99999999,${sum},${at}`)).toMatch(/size/);
	});
	test("each of its tables is put back as it was when an import is undone", async () => {
		const { rows } = await connection().db.execute(sql`
			select event_object_table as name, count(distinct event_manipulation)::int as n from information_schema.triggers where trigger_name like 'undo_%' group by 1`);
		const held = new Map(rows.map(({ name, n }) => [name, n]));
		expect(STORES.filter(({ tableName }) => held.get(tableName) !== 3).map(({ tableName }) => tableName)).toEqual([]);
	});
});
