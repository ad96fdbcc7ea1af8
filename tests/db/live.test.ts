import { afterAll, beforeAll, expect, test } from "vitest";
import { connection } from "@/data/db";
import { onSaid } from "@/data/live";
import { recordChange } from "@/data/store/changeLog";
import { freshDatabase } from "../kit/database";

let database: Awaited<ReturnType<typeof freshDatabase>>;
beforeAll(async () => {
	database = await freshDatabase("live");
});
afterAll(() => database.drop());

const write = () => connection().db.transaction((tx) => recordChange(tx, "marks"));
const soon = async (holds: () => boolean, within = 5000) => {
	const end = Date.now() + within;
	while (!holds() && Date.now() < end) await new Promise((resolve) => setTimeout(resolve, 20));
	return holds();
};

test("every committed write is told to all who listen, and after a lost connection what was missed", async () => {
	const heard: number[][] = [[], []];
	const stops = heard.map((list) => onSaid(database.url, (said) => "revision" in said && list.push(said.revision)));
	expect(await soon(() => heard.every((list) => list.length > 0))).toBe(true);
	const before = heard[0]?.at(-1) ?? 0;
	await write();
	expect(await soon(() => heard.every((list) => list.at(-1) === before + 1))).toBe(true);
	await connection()
		.db.transaction(async (tx) => {
			await recordChange(tx, "marks");
			throw new Error("rolled back");
		})
		.catch(() => undefined);
	await connection().pool.query(
		"select pg_terminate_backend(pid) from pg_stat_activity where application_name = 'porch lamp live' and datname = current_database()",
	);
	await write();
	expect(await soon(() => heard.every((list) => list.at(-1) === before + 2))).toBe(true);
	for (const stop of stops) stop();
	await write();
	await new Promise((resolve) => setTimeout(resolve, 200));
	expect(heard[0]?.at(-1)).toBe(before + 2);
});
