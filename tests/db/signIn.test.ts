import { eq, sql } from "drizzle-orm";
import { type TOTP, URI } from "otpauth";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { connection } from "@/data/db";
import { apiKeys, people, sessions } from "@/data/schema";
import { createKey, revokeKey } from "@/features/people/server/keys";
import { changePassword, endSession, offerCodes, readOwnSignIn, switchCodesOff, switchCodesOn } from "@/features/people/server/ownSignIn";
import { signIn, signOut } from "@/features/people/server/signIn";
import { giveTasks } from "@/features/tasks/server/giveTasks";
import type { Context } from "@/platform/context";
import { keyContext, sessionContext, tokenHash } from "@/platform/sessions";
import { small } from "../kit/bundle";
import { as, freshDatabase, givePasswords, importAs, PASSWORD } from "../kit/database";
import { allDeals } from "../kit/deals";
import { faultOf } from "../kit/fault";

let database: Awaited<ReturnType<typeof freshDatabase>>;
beforeAll(async () => {
	database = await freshDatabase("signin");
	await importAs(small());
	await givePasswords();
});
afterAll(() => database.drop());

const from = (source: string) => ({ source, agent: "Test" });
const rae = { email: "RAE@firm.example", password: PASSWORD };

describe("signing in", () => {
	test("opens a session that is known by its hash alone, and signing out ends it", async () => {
		const { token } = await signIn(rae, from("here"));
		expect((await sessionContext(token))?.actor.person.id).toBe("rep1");
		const stored = await connection().db.select().from(sessions);
		expect(JSON.stringify(stored)).not.toContain(token);
		await signOut(token);
		expect(await sessionContext(token)).toBeNull();
	});
	test("keeps passwords as slow salted hashes: the same password, another hash", async () => {
		const hashes = (await connection().db.select({ hash: people.passwordHash }).from(people)).map((row) => row.hash);
		expect(hashes[0]).toMatch(/^\$argon2id\$/);
		await givePasswords();
		const [again] = await connection().db.select({ hash: people.passwordHash }).from(people);
		expect(again?.hash).not.toBe(hashes[0]);
	});
	test("says the same for a wrong password and an unknown address", async () => {
		const wrong = await signIn({ ...rae, password: "no" }, from("here")).catch((error) => error.message);
		const unknown = await signIn({ email: "who@firm.example", password: "no" }, from("here")).catch((error) => error.message);
		expect(wrong).toBe(unknown);
	});
	test("is closed to whoever has left, and to sessions that are over", async () => {
		await expect(signIn({ email: "gil@firm.example", password: PASSWORD }, from("here"))).rejects.toMatchObject({ status: 401 });
		const { token } = await signIn(rae, from("here"));
		await connection()
			.db.update(sessions)
			.set({ expiresAt: new Date(Date.now() - 1000) })
			.where(eq(sessions.personId, "rep1"));
		expect(await sessionContext(token)).toBeNull();
	});
	test("is limited: after eight wrong tries the right password has to wait too", async () => {
		for (let i = 0; i < 8; i++) await expect(signIn({ email: "sol@firm.example", password: "no" }, from("there"))).rejects.toMatchObject({ status: 401 });
		await expect(signIn({ email: "sol@firm.example", password: PASSWORD }, from("there"))).rejects.toMatchObject({ status: 429 });
		await expect(signIn(rae, from("there"))).resolves.toBeDefined();
		// Whoever guesses keeps nobody out who comes from elsewhere, however often they change their own headers.
		await expect(signIn({ email: "sol@firm.example", password: PASSWORD }, from("elsewhere"))).resolves.toBeDefined();
		await connection().db.execute(sql`delete from sign_in_attempts`);
	});
	test("stands in the audit, failed tries too", async () => {
		await signIn(rae, from("audited"));
		await signIn({ ...rae, password: "no" }, from("audited")).catch(() => undefined);
		const { rows } = await connection().db.execute(
			sql`select action, subject, detail->>'source' as source from audit where detail->>'source' = 'audited' order by id`,
		);
		expect(rows).toEqual([
			{ action: "signed in", subject: "rep1", source: "audited" },
			{ action: "sign-in failed", subject: "rep1", source: "audited" },
		]);
	});
	test("is over when nobody has used it for days, and on a reset", async () => {
		const { token } = await signIn(rae, from("here"));
		await connection().db.execute(sql`update sessions set last_seen_at = now() - interval '4 days' where token_hash = ${tokenHash(token)}`);
		expect(await sessionContext(token)).toBeNull();
	});
});

describe("one’s own sign-in", () => {
	test("a new password is ten letters or more, none that everybody tries, and ends all other sessions", async () => {
		const mine = await signIn(rae, from("here"));
		const other = await signIn(rae, from("elsewhere"));
		const context = await as("rep1");
		const { sessions: open } = await readOwnSignIn(context, tokenHash(mine.token));
		const here = open.find((session) => session.mine)?.id ?? null;
		const change = (present: string, next: string) => changePassword(context, { present, next, sessionId: here });
		expect((await faultOf(() => change("wrong", "seven crates of rye"))).status).toBe(403);
		for (const next of ["short", "password12", "P@ssw0rd1234", "qwertyuiop", "aaaaaaaaaaaa", "raepenn2026!", "1234567890"]) {
			expect([next, (await faultOf(() => change(PASSWORD, next))).status]).toEqual([next, 422]);
		}
		await change(PASSWORD, "seven crates of rye");
		expect((await sessionContext(mine.token))?.actor.person.id).toBe("rep1");
		expect(await sessionContext(other.token)).toBeNull();
		await expect(signIn({ ...rae, password: "seven crates of rye" }, from("here"))).resolves.toBeDefined();
		await givePasswords();
	});
	test("sessions are seen and ended one by one, and nobody else’s", async () => {
		const { token } = await signIn(rae, from("lobby"));
		const context = await as("rep1");
		const lobby = (await readOwnSignIn(context, null)).sessions.find((session) => session.source === "lobby");
		expect((await faultOf(async () => endSession(await as("rep2"), { id: lobby?.id ?? "", except: null }))).status).toBe(404);
		await endSession(context, { id: lobby?.id ?? "", except: null });
		expect(await sessionContext(token)).toBeNull();
	});
	test("one-time codes are switched on with a right one, asked for from then on, and count once", async () => {
		const context = await as("rep1");
		const offer = await offerCodes(context, {});
		const totp = URI.parse(offer.address) as TOTP;
		expect((await faultOf(() => switchCodesOn(context, { sealed: offer.sealed, code: "000000", password: PASSWORD }))).status).toBe(422);
		const at = Date.now();
		await switchCodesOn(context, { sealed: offer.sealed, code: totp.generate({ timestamp: at - 30_000 }), password: PASSWORD });
		const [stored] = await connection().db.select({ secret: people.codeSecret }).from(people).where(eq(people.id, "rep1"));
		expect(stored?.secret).not.toContain(offer.text.replaceAll(" ", ""));
		expect((await faultOf(() => signIn(rae, from("here")))).detail).toMatch(/one-time code/);
		const code = totp.generate({ timestamp: at });
		await expect(signIn({ ...rae, code }, from("here"))).resolves.toBeDefined();
		expect((await faultOf(() => signIn({ ...rae, code }, from("here")))).status).toBe(401);
		await switchCodesOff(context, { password: PASSWORD });
		await expect(signIn(rae, from("here"))).resolves.toBeDefined();
		await connection().db.execute(sql`delete from sign_in_attempts`);
	});
});

describe("a whole office", () => {
	test("may sign in from one address: only failed attempts use up its tries", async () => {
		for (let i = 0; i < 62; i++) await signIn(rae, from("office"));
		await expect(signIn({ email: "sol@firm.example", password: "no" }, from("office"))).rejects.toMatchObject({ status: 401 });
		await expect(signIn(rae, from("office"))).resolves.toBeDefined();
		await connection().db.execute(sql`delete from sign_in_attempts`);
	}, 60_000);
});

describe("a key", () => {
	test("acts as its person until it is revoked, and is stored as a hash", async () => {
		const { id, token } = await createKey(await as("rep1"), { name: "sheet" });
		expect((await keyContext(token))?.actor.person.id).toBe("rep1");
		const [stored] = await connection().db.select().from(apiKeys).where(eq(apiKeys.id, id));
		expect(JSON.stringify(stored)).not.toContain(token);
		expect(stored?.lastUsedAt).not.toBeNull();
		await revokeKey(await as("rep1"), { id });
		expect(await keyContext(token)).toBeNull();
		expect(await keyContext("lamp_made-up")).toBeNull();
	});
});

describe("a key’s scope", () => {
	test("a key that may only read changes nothing, one of an area does nothing elsewhere, and one that has ended is unknown", async () => {
		const rep = await as("rep1");
		const reads = (await keyContext((await createKey(rep, { name: "reads" })).token)) as Context;
		expect(allDeals(reads, {}).length).toBeGreaterThan(0);
		expect((await faultOf(() => giveTasks(reads, { dealIds: ["d1"], title: "Call" }))).detail).toMatch(/only read/);
		const tasksOnly = (await keyContext((await createKey(rep, { name: "tasks", write: true, areas: ["tasks"] })).token)) as Context;
		expect((await faultOf(() => allDeals(tasksOnly, {}))).detail).toMatch(/used for deals/);
		await expect(giveTasks(tasksOnly, { dealIds: ["d1"], title: "Call" })).resolves.toBeDefined();
		const { id, token } = await createKey(rep, { name: "ends", days: 1 });
		await connection()
			.db.update(apiKeys)
			.set({ expiresAt: new Date(Date.now() - 1000) })
			.where(eq(apiKeys.id, id));
		expect(await keyContext(token)).toBeNull();
	});
	test("no key makes a key, nor changes how its person signs in", async () => {
		const { token } = await createKey(await as("rep1"), { name: "all", write: true });
		const key = (await keyContext(token)) as Context;
		expect((await faultOf(() => createKey(key, { name: "another" }))).status).toBe(403);
		expect((await faultOf(() => changePassword(key, { present: PASSWORD, next: "seven crates of rye", sessionId: null }))).status).toBe(403);
	});
});
