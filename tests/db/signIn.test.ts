import { eq, sql } from "drizzle-orm";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { connection } from "@/data/db";
import { apiKeys, people, sessions } from "@/data/schema";
import { createKey, revokeKey } from "@/features/people/server/keys";
import { signIn, signOut } from "@/features/people/server/signIn";
import { keyContext, sessionContext } from "@/platform/sessions";
import { small } from "../kit/bundle";
import { as, freshDatabase, givePasswords, importAs, PASSWORD } from "../kit/database";

let database: Awaited<ReturnType<typeof freshDatabase>>;
beforeAll(async () => {
	database = await freshDatabase("signin");
	await importAs(small());
	await givePasswords();
});
afterAll(() => database.drop());

const rae = { email: "RAE@firm.example", password: PASSWORD };

describe("signing in", () => {
	test("opens a session that is known by its hash alone, and signing out ends it", async () => {
		const { token } = await signIn(rae, "here");
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
		const wrong = await signIn({ ...rae, password: "no" }, "here").catch((error) => error.message);
		const unknown = await signIn({ email: "who@firm.example", password: "no" }, "here").catch((error) => error.message);
		expect(wrong).toBe(unknown);
	});
	test("is closed to whoever has left, and to sessions that are over", async () => {
		await expect(signIn({ email: "gil@firm.example", password: PASSWORD }, "here")).rejects.toMatchObject({ status: 401 });
		const { token } = await signIn(rae, "here");
		await connection()
			.db.update(sessions)
			.set({ expiresAt: new Date(Date.now() - 1000) })
			.where(eq(sessions.personId, "rep1"));
		expect(await sessionContext(token)).toBeNull();
	});
	test("is limited: after eight wrong tries the right password has to wait too", async () => {
		for (let i = 0; i < 8; i++) await expect(signIn({ email: "sol@firm.example", password: "no" }, "there")).rejects.toMatchObject({ status: 401 });
		await expect(signIn({ email: "sol@firm.example", password: PASSWORD }, "there")).rejects.toMatchObject({ status: 429 });
		await expect(signIn(rae, "there")).resolves.toBeDefined();
		await connection().db.execute(sql`delete from sign_in_attempts`);
	});
});

describe("a whole office", () => {
	test("may sign in from one address: only failed attempts use up its tries", async () => {
		for (let i = 0; i < 62; i++) await signIn(rae, "office");
		await expect(signIn({ email: "sol@firm.example", password: "no" }, "office")).rejects.toMatchObject({ status: 401 });
		await expect(signIn(rae, "office")).resolves.toBeDefined();
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
