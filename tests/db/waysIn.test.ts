import { eq, sql } from "drizzle-orm";
import { afterAll, beforeAll, beforeEach, describe, expect, test } from "vitest";
import { connection } from "@/data/db";
import { apiKeys, feeds, passwordLinks, sessions, webhooks } from "@/data/schema";
import { renewFeed } from "@/features/calendars/server/calendars";
import { feedOf } from "@/features/calendars/server/feed";
import { endWaysOfGone } from "@/features/people/server/endWays";
import { createKey } from "@/features/people/server/keys";
import { savePerson } from "@/features/people/server/managePeople";
import { mergePeople } from "@/features/people/server/mergePeople";
import { changePassword } from "@/features/people/server/ownSignIn";
import { makePasswordLink, setPasswordByLink } from "@/features/people/server/passwordLinks";
import { giveTasks } from "@/features/tasks/server/giveTasks";
import { makeHook } from "@/features/webhooks/server/hooks";
import { keyContext } from "@/platform/sessions";
import { small } from "../kit/bundle";
import { as, freshDatabase, givePasswords, refill } from "../kit/database";
import { faultOf } from "../kit/fault";

let database: Awaited<ReturnType<typeof freshDatabase>>;
beforeAll(async () => {
	database = await freshDatabase("waysin");
});
afterAll(() => database.drop());
beforeEach(async () => {
	await refill(small());
	await givePasswords();
});

const db = () => connection().db;
/** Opens every way in for a person of ops, and answers what is known of them. */
async function open(id: string) {
	await db().update(webhooks).set({ on: false });
	const key = await createKey(await as(id), { name: "k" });
	const feed = await renewFeed(await as(id), {});
	const link = await makePasswordLink(await as("ops"), { id });
	await makeHook(await as("ops"), { url: "https://receiver.example/in", events: ["task.given"] });
	await db().update(webhooks).set({ byId: id });
	await db()
		.insert(sessions)
		.values({ tokenHash: `s-${id}`, personId: id, expiresAt: new Date(Date.now() + 1e7) });
	return { key: key.token, feed: feed.path.replace(/^\/calendar\/|\.ics$/g, ""), link: link.path.split("#")[1] as string };
}
const left = async (id: string) => ({
	keys: (await db().select().from(apiKeys).where(eq(apiKeys.personId, id))).filter(({ revokedAt }) => !revokedAt).length,
	feeds: (await db().select().from(feeds).where(eq(feeds.personId, id))).length,
	links: (await db().select().from(passwordLinks).where(eq(passwordLinks.personId, id))).length,
	sessions: (await db().select().from(sessions).where(eq(sessions.personId, id))).length,
	hooks: (await db().select().from(webhooks)).filter(({ on }) => on).length,
});
const NONE = { keys: 0, feeds: 0, links: 0, sessions: 0, hooks: 0 };
const saved = async (id: string, activeTo: string | null) => {
	const { people, personIndex } = (await as("ops")).organisation;
	const { name, email, role, team } = people[personIndex.get(id) as number] as (typeof people)[number];
	return savePerson(await as("ops"), { id, name, email, role, team, activeFrom: null, activeTo });
};

describe("the ways in of somebody", () => {
	test("end when they leave, and don’t open again when they return", async () => {
		const ways = await open("rep1");
		expect(await feedOf(ways.feed)).not.toBeNull();
		await saved("rep1", "2020-01-31");
		expect(await left("rep1")).toEqual(NONE);
		await saved("rep1", null);
		expect(await left("rep1")).toEqual(NONE);
		expect(await keyContext(ways.key)).toBeNull();
		expect(await feedOf(ways.feed)).toBeNull();
		expect(await faultOf(() => setPasswordByLink({ token: ways.link, password: "seven geese walk" }))).toMatchObject({ title: "This link has expired" });
	});
	test("end at night when their last day passes by itself, once", async () => {
		await open("rep1");
		await db().execute(sql`update people set active_to = '2020-01-31' where id = 'rep1'`);
		await db().execute(sql`select 1`);
		expect(await endWaysOfGone()).toHaveLength(1);
		expect(await left("rep1")).toEqual(NONE);
		expect(await endWaysOfGone()).toEqual([]);
	});
	test("end when they are merged into another, whose own stay", async () => {
		const gone = await open("rep1");
		const stays = await renewFeed(await as("rep2"), {});
		await mergePeople(await as("ops"), { from: "rep1", into: "rep2" });
		expect(await feedOf(gone.feed)).toBeNull();
		expect(await feedOf(stays.path.replace(/^\/calendar\/|\.ics$/g, ""))).not.toBeNull();
		expect(await keyContext(gone.key)).toBeNull();
		expect((await left("rep2")).hooks).toBe(0);
	});
	test("stay as they are when only a name or a later last day is changed", async () => {
		await open("rep1");
		await saved("rep1", "2099-12-31");
		expect(await left("rep1")).toEqual({ keys: 1, feeds: 1, links: 1, sessions: 1, hooks: 1 });
	});
});

describe("limits", () => {
	test("a password that is guessed at from an open screen is refused after some tries", async () => {
		const guess = async () => faultOf(async () => changePassword(await as("rep1"), { present: "wrong", next: "seven geese walk", sessionId: null }));
		const seen = new Set<number>();
		for (let i = 0; i < 12; i++) seen.add((await guess()).status);
		expect([...seen].sort()).toEqual([403, 429]);
	});
	test("a name of a write means one change: another under it is refused, the same is answered again", async () => {
		const give = async (title: string) => giveTasks({ ...(await as("boss")), once: "one" }, { dealIds: ["d1"], title });
		const first = await give("Call");
		expect(await give("Call")).toEqual(first);
		expect(await faultOf(() => give("Another"))).toMatchObject({ status: 422, title: "Key already used" });
	});
	test("a key isn’t made for an area that isn’t there", async () => {
		await expect(createKey(await as("boss"), { name: "x", areas: ["dials"] as never })).rejects.toThrow("no such area");
	});
});
