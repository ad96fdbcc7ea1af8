import { eq } from "drizzle-orm";
import { afterAll, afterEach, beforeAll, beforeEach, describe, expect, test } from "vitest";
import { healthAnswer, readyAnswer } from "@/app/server/answers";
import { frameView } from "@/app/server/frame";
import { connection, waysToDatabase } from "@/data/db";
import { awaySince, isAway, lookForDatabase } from "@/data/reach";
import { audit, idempotencyKeys, sessions } from "@/data/schema";
import { keepMark } from "@/features/changes/server/marks";
import { databaseFault } from "@/platform/databaseFault";
import { sessionContext, tokenHash } from "@/platform/sessions";
import { resolveViewpoint } from "@/platform/viewpoint";
import { systemWrite } from "@/platform/write";
import { as, freshDatabase, refill } from "../kit/database";
import { faultOf } from "../kit/fault";
import { freshProcess } from "../kit/freshProcess";
import { inspected } from "../kit/inspection";
import { type Line, layLine } from "../kit/line";

// The line to the database breaks: before, within and after a write, and while people read. What was acknowledged is there
// once, what is in memory is still read, and who can't be answered is told.
let database: Awaited<ReturnType<typeof freshDatabase>>;
let line: Line;
const TOKEN = "somebody-signed-in";

beforeAll(async () => {
	database = await freshDatabase("away");
	await refill(inspected());
	const url = new URL(database.url);
	await connection().close();
	await freshProcess();
	line = await layLine({ host: url.hostname, port: Number(url.port) });
	url.port = String(line.port);
	process.env.DATABASE_URL = url.href;
});
beforeEach(() => {
	process.env.PORCH_LAMP_WAIT = "5";
});
afterEach(async () => {
	line.mend();
	await expect.poll(awaySince, { timeout: 10_000 }).toBeNull();
});
afterAll(async () => {
	delete process.env.PORCH_LAMP_WAIT;
	await database.drop();
	await line.close();
});

/** Writes one line of the audit, and nothing else: what happens to it happens to every write. */
const write = (action: string) => systemWrite(async () => ({ result: action, touched: "marks", audit: { action, subject: null, detail: { name: action } } }));
const written = async (action: string) => (await connection().db.select().from(audit).where(eq(audit.action, action))).length;
/** Breaks the line now, and has it mended a moment later. */
const breakFor = (ms: number) => {
	line.cut();
	setTimeout(() => line.mend(), ms);
};

describe("a write while the database is away", () => {
	test("waits for it, and is done once", async () => {
		breakFor(900);
		expect(await write("begun while away")).toBe("begun while away");
		expect(await written("begun while away")).toBe(1);
	});
	test.each([
		["at its first statement", "pg_advisory_xact_lock_shared", "going"],
		["once that was answered", "pg_advisory_xact_lock_shared", "coming"],
		["as it writes", 'insert into "audit"', "coming"],
		["before its commit is heard", "commit", "going"],
		["with the commit’s answer under way", "commit", "coming"],
	] as const)("that breaks off %s is done once", async (how, text, where) => {
		const action = `broke off ${how}`;
		await write(`${action}, before`);
		line.cutAt(text, where);
		const done = write(action);
		setTimeout(() => line.mend(), 700);
		expect(await done).toBe(action);
		expect(await written(action)).toBe(1);
	});
	test("that somebody sent under a name is done once however often it breaks off and is sent", async () => {
		const context = { ...(await as("north")), once: "sent once" };
		line.cutAt("commit", "coming");
		setTimeout(() => line.mend(), 700);
		const first = await keepMark(context, { name: "Kept once" });
		expect(await keepMark(context, { name: "Kept once" })).toEqual(first);
		const kept = await connection().db.select().from(audit).where(eq(audit.action, "mark saved"));
		expect(kept.filter(({ detail }) => (detail as { name?: string }).name === "Kept once")).toHaveLength(1);
	});
	test("whose first commit goes on by itself after the line broke is waited for, and not done twice", async () => {
		const { db } = connection();
		await db.execute("create function slowly() returns trigger language plpgsql as 'begin perform pg_sleep(1.5); return null; end'");
		await db.execute("create constraint trigger slowly after insert on audit deferrable initially deferred for each row execute function slowly()");
		try {
			line.cutAt("commit", "gone");
			setTimeout(() => line.mend(), 300);
			expect(await write("slow commit")).toBe("slow commit");
		} finally {
			await connection().db.execute("drop function slowly() cascade");
		}
		expect(await written("slow commit")).toBe(1);
	});
	test("is told when it stays away, and leaves nothing behind", async () => {
		process.env.PORCH_LAMP_WAIT = "1";
		line.cut();
		const fault = await faultOf(() => write("never done"));
		expect(fault).toMatchObject({ status: 503, title: "Please wait" });
		expect(fault.detail).toContain("Nothing was changed.");
		line.mend();
		await expect.poll(awaySince, { timeout: 10_000 }).toBeNull();
		expect(await written("never done")).toBe(0);
	});
	test("says so where it isn’t known whether it was saved", async () => {
		process.env.PORCH_LAMP_WAIT = "1";
		line.cutAt("commit", "coming");
		expect((await faultOf(() => write("perhaps done"))).detail).toContain("it isn’t known whether it was");
	});
	test("and what is wrong with it by itself is said at once", async () => {
		await expect(systemWrite(() => Promise.reject(new Error("no reason to wait")))).rejects.toThrow("no reason to wait");
	});
	test("leaves no connection taken for ever, however often it broke off", async () => {
		for (let times = 0; times < 12; times++) {
			line.cutAt("begin", times % 2 ? "going" : "coming");
			setTimeout(() => line.mend(), 20);
			await write(`again and again ${times}`);
		}
		const { pool } = connection();
		await expect.poll(() => pool.totalCount - pool.idleCount, { timeout: 10_000 }).toBe(0);
	});
	test("leaves its own key to be pruned like any other", async () => {
		await write("with a key");
		const keys = await connection().db.select().from(idempotencyKeys);
		expect(keys.filter(({ key }) => key.startsWith("write ")).every(({ result }) => result === null)).toBe(true);
	});
});

test("an error of a module that is there twice is known as well", () => {
	expect([isAway(Object.assign(new Error("the database can’t be reached"), { code: "DATABASE_AWAY" })), isAway(new Error("anything else"))]).toEqual([
		true,
		false,
	]);
});

describe("reading while the database is away", () => {
	const signIn = () =>
		connection()
			.db.insert(sessions)
			.values({ tokenHash: tokenHash(TOKEN), personId: "north", expiresAt: new Date(Date.now() + 3_600_000) })
			.onConflictDoNothing();
	test("goes on from memory for those who were let in before, and says so", async () => {
		await signIn();
		const before = await sessionContext(TOKEN);
		if (!before) throw new Error("not let in");
		expect(before.actor.person.id).toBe("north");
		const { rail } = await frameView(before, resolveViewpoint(before, {}));
		line.cut();
		const context = await sessionContext(TOKEN);
		if (!context) throw new Error("let in no more");
		expect(context.organisation).toBe(before.organisation);
		const frame = await frameView(context, resolveViewpoint(context, {}));
		expect(frame.away).toBe(true);
		expect(frame.trouble).toMatch(/^The database can’t be reached. You see the figures as of \d\d:\d\d;/);
		// What is counted in memory is counted still.
		expect(frame.rail).toEqual(rail);
		expect([(await healthAnswer()).status, (await readyAnswer()).status]).toEqual([200, 503]);
	});
	test("is over at once for those nobody knows", async () => {
		line.cut();
		const error = await sessionContext("a stranger").catch((one: unknown) => one);
		expect(databaseFault(error)).toMatchObject({ status: 503 });
	});
	test("ends with the session that was ended before", async () => {
		await signIn();
		await sessionContext(TOKEN);
		await connection().db.delete(sessions);
		expect(await sessionContext(TOKEN)).toBeNull();
		line.cut();
		await expect(sessionContext(TOKEN)).rejects.toThrow();
	});
	test("asks again as soon as it is back, and says nothing more", async () => {
		await signIn();
		await sessionContext(TOKEN);
		breakFor(800);
		await sessionContext(TOKEN);
		await expect.poll(awaySince, { timeout: 10_000 }).toBeNull();
		const context = await sessionContext(TOKEN);
		if (!context) throw new Error("let in no more");
		const frame = await frameView(context, resolveViewpoint(context, {}));
		expect([frame.away, frame.trouble]).toEqual([false, null]);
	});
	test("isn’t thought to be away for one connection that broke", async () => {
		await signIn();
		breakFor(0);
		await new Promise((resolve) => setTimeout(resolve, 50));
		expect((await sessionContext(TOKEN))?.actor.person.id).toBe("north");
		expect(awaySince()).toBeNull();
	});
	test("is known at once by the way past a pool in front, which has those who ask wait for a primary", async () => {
		const url = new URL(database.url);
		const past = await layLine({ host: url.hostname, port: Number(url.port) });
		url.port = String(past.port);
		process.env.PORCH_LAMP_DIRECT = url.href;
		try {
			past.cut();
			void lookForDatabase(waysToDatabase());
			await expect.poll(awaySince, { timeout: 1000 }).not.toBeNull();
			past.mend();
			await expect.poll(awaySince, { timeout: 10_000 }).toBeNull();
			await signIn();
			expect((await sessionContext(TOKEN))?.actor.person.id).toBe("north");
		} finally {
			delete process.env.PORCH_LAMP_DIRECT;
			past.mend();
			await expect.poll(awaySince, { timeout: 10_000 }).toBeNull();
			await past.close();
		}
	});
});
