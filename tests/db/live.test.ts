import { sql } from "drizzle-orm";
import { afterAll, beforeAll, beforeEach, describe, expect, test } from "vitest";
import { routeAnswer } from "@/app/server/routes";
import { connection } from "@/data/db";
import { onSaid } from "@/data/live";
import { recordChange } from "@/data/store/changeLog";
import type { Touched } from "@/data/touched";
import { editDeals } from "@/features/deals/server/editDeals";
import { signIn } from "@/features/people/server/signIn";
import { readDeal } from "@/features/sheet/server/readDeal";
import { writeNote } from "@/features/sheet/server/writeNote";
import { small } from "../kit/bundle";
import { as, freshDatabase, givePasswords, PASSWORD, refill } from "../kit/database";

let database: Awaited<ReturnType<typeof freshDatabase>>;
beforeAll(async () => {
	database = await freshDatabase("live");
});
afterAll(() => database.drop());

const write = () => connection().db.transaction((tx) => recordChange(tx, "marks"));
const soon = async (holds: () => boolean, within = 30_000) => {
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

describe("a write is told with", () => {
	beforeEach(() => refill(small()));

	/** What was told of the last write of some work. */
	async function toldOf(work: () => Promise<unknown>): Promise<Touched> {
		const heard: { revision: number; people: Touched }[] = [];
		const stop = onSaid(database.url, (said) => "revision" in said && heard.push(said));
		expect(await soon(() => heard.length > 0)).toBe(true);
		await work();
		const { revision } = (await as("ops")).organisation;
		expect(await soon(() => heard.at(-1)?.revision === revision)).toBe(true);
		stop();
		return heard.at(-1)?.people ?? null;
	}

	test("who owns the deals that it touched, or did before", async () => {
		expect(await toldOf(async () => writeNote(await as("boss"), { dealId: "d1", body: "Noted" }))).toEqual(["rep1"]);
		const { versionId } = await readDeal(await as("boss"), "d1", undefined);
		const target = [{ id: "d1", versionId }];
		expect(await toldOf(async () => editDeals(await as("boss"), { targets: target, change: { ownerId: "rep2" } }))).toEqual(["rep1", "rep2"]);
		expect(await toldOf(() => connection().db.transaction((tx) => recordChange(tx, ["d1", "d2"])))).toEqual(["rep1", "rep2"]);
	});
	test("who has its deals’ tasks, or had them", async () => {
		const { db } = connection();
		const task = (id: string, assignee: string | null) =>
			db.execute(sql`insert into tasks (id, deal_id, title, assignee_id, state, created_at) values (${id}, 'd1', 'Ring them', ${assignee}, 'open', now())`);
		await task("t1", "rep2");
		expect(await toldOf(() => db.transaction((tx) => recordChange(tx, ["d1"])))).toEqual(["rep1", "rep2"]);
		await db.execute(sql`update tasks set assignee_id = 'rep1'`);
		const before = {
			title: "Ring them",
			dueOn: null,
			assigneeId: "north",
			team: null,
			state: "open",
			doneAt: null,
			note: null,
			importance: "usual",
			checklist: [],
		};
		await db.execute(sql`insert into task_changes (task_id, at, what, before) values ('t1', now(), 'given', ${JSON.stringify(before)})`);
		expect(await toldOf(() => db.transaction((tx) => recordChange(tx, ["d1"])))).toEqual(["north", "rep1"]);
		await task("t2", null);
		expect(await toldOf(() => db.transaction((tx) => recordChange(tx, ["d1"])))).toBeNull();
	});
	test("nobody’s name where it may matter to everybody: marks, settings, deals without an owner, deals that are gone", async () => {
		const { db } = connection();
		const touched = (...args: Parameters<typeof recordChange> extends [unknown, ...infer Rest] ? Rest : never) =>
			toldOf(() => db.transaction((tx) => recordChange(tx, ...args)));
		expect(await touched("marks")).toBeNull();
		expect(await touched("settings")).toBeNull();
		expect(await touched("everything")).toBeNull();
		expect(await touched({ deals: ["d1"], parts: ["targets"] })).toBeNull();
		expect(await touched(["d1", "gone"])).toBeNull();
		await db.execute(sql`update deal_versions set owner_id = null where deal_id = 'd2'`);
		expect(await touched(["d2"])).toBeNull();
	});
});

test("a browser is told of what touches those whose deals its person may see, and of nothing else", async () => {
	await refill(small());
	await givePasswords();
	const { token } = await signIn({ email: "rae@firm.example", password: PASSWORD }, { source: "test", agent: "" });
	const gone = new AbortController();
	const request = () => new Request("http://127.0.0.1/live", { headers: { cookie: `porch_lamp_session=${token}` }, signal: gone.signal });
	const answer = await routeAnswer("GET", "/live", request);
	const heard: { revision: number; people: Touched }[] = [];
	const reader = answer?.body?.pipeThrough(new TextDecoderStream()).getReader();
	const reading = (async () => {
		for (let next = await reader?.read(); next && !next.done; next = await reader?.read())
			for (const [, data] of next.value.matchAll(/^data: (\{.*)$/gm)) heard.push(JSON.parse(data as string));
	})().catch(() => undefined);
	expect(await soon(() => heard.length > 0)).toBe(true);
	// From this on the process listens; what it missed before would be told as one.
	await write();
	const begun = (await as("ops")).organisation.revision;
	expect(await soon(() => heard.at(-1)?.revision === begun)).toBe(true);
	const touch = (id: string) => connection().db.transaction((tx) => recordChange(tx, [id]));
	await touch("d2");
	await touch("d1");
	await write();
	const { revision } = (await as("ops")).organisation;
	expect(await soon(() => heard.at(-1)?.revision === revision)).toBe(true);
	expect(heard.filter((said) => said.revision > revision - 3)).toEqual([
		{ revision: revision - 1, people: ["rep1"] },
		{ revision, people: null },
	]);
	gone.abort();
	await reader?.cancel();
	await reading;
});
