import { desc, eq } from "drizzle-orm";
import { afterAll, beforeAll, beforeEach, describe, expect, test } from "vitest";
import { connection } from "@/data/db";
import { audit, passkeys, people, signInAttempts } from "@/data/schema";
import { endWaysOfGone } from "@/features/people/server/endWays";
import { readOwnSignIn } from "@/features/people/server/ownSignIn";
import { askForPasskey, enterByPasskey, passkeysHere } from "@/features/people/server/passkeys/enter";
import { addPasskey, offerPasskey, removePasskey } from "@/features/people/server/passkeys/own";
import { makePasswordLink, setPasswordByLink } from "@/features/people/server/passwordLinks";
import type { Fault } from "@/platform/fault";
import { sessionContext } from "@/platform/sessions";
import { authenticator } from "../kit/authenticator";
import { small } from "../kit/bundle";
import { as, freshDatabase, givePasswords, PASSWORD, refill } from "../kit/database";

let database: Awaited<ReturnType<typeof freshDatabase>>;
const HERE = { origin: "http://localhost:3000", rpId: "localhost" };
const FROM = { source: "203.0.113.5", agent: "a test" };
beforeAll(async () => {
	database = await freshDatabase("passkeys");
	process.env.PORCH_LAMP_ADDRESS = "http://127.0.0.1:3000";
});
beforeEach(async () => {
	await refill(small());
	await givePasswords();
	await connection().db.delete(passkeys);
	await connection().db.delete(signInAttempts);
});
afterAll(async () => {
	delete process.env.PORCH_LAMP_ADDRESS;
	await database.drop();
});

/** Somebody’s new device, which they have added. */
async function added(who = "rep1", name = "Phone") {
	const device = authenticator();
	const context = await as(who);
	const { options, sealed } = await offerPasskey(context, { password: PASSWORD });
	await addPasskey(context, { sealed, response: device.make(options, HERE), name });
	return device;
}
/** Signs in by a device, and says who one is then. */
async function enter(device: ReturnType<typeof authenticator>, how: Partial<Parameters<typeof device.answer>[1]> = {}) {
	const { options, sealed } = await askForPasskey();
	return enterByPasskey({ sealed, response: device.answer(options, { ...HERE, ...how }) }, FROM).then(({ token }) => token);
}
/** Why it isn’t done; null where it is. */
const refusal = (work: () => Promise<unknown>) =>
	work().then(
		() => null,
		(error: Fault) => error,
	);
const REFUSED = "This passkey isn’t known here, was removed, or can’t be used now. Sign in another way.";

describe("a passkey", () => {
	test("is added with the password, signs its person in without it, and is told with when it was used", async () => {
		expect(await passkeysHere()).toBeNull();
		const device = await added();
		expect(await passkeysHere()).toBe("http://localhost:3000");
		expect((await readOwnSignIn(await as("rep1"), null)).passkeys).toMatchObject([{ name: "Phone", lastUsedAt: null }]);
		const context = await sessionContext(await enter(device));
		expect(context?.actor.person.id).toBe("rep1");
		expect((await readOwnSignIn(await as("rep1"), null)).passkeys[0]?.lastUsedAt).not.toBeNull();
		const [line] = await connection().db.select().from(audit).where(eq(audit.action, "signed in")).orderBy(desc(audit.id)).limit(1);
		expect(line?.detail).toMatchObject({ by: "passkey" });
		// Twice more: its count goes on.
		await enter(device);
		expect((await sessionContext(await enter(device)))?.actor.person.id).toBe("rep1");
	});

	test("isn’t added without the password, late, for another, for another page, by a key’s program, or twice", async () => {
		const device = authenticator();
		const rae = await as("rep1");
		const { options, sealed } = await offerPasskey(rae, { password: PASSWORD });
		const response = device.make(options, HERE);
		const add = (more: object, context = rae) =>
			refusal(() => addPasskey(context, { sealed, response, name: "Phone", ...more })).then((fault) => fault?.title ?? "added");
		// Before a device has made anything: what it made for nothing would be offered when signing in.
		expect((await refusal(() => offerPasskey(rae, { password: "guessed wrong" })))?.title).toBe("Wrong password");
		expect((await offerPasskey(rae, { password: PASSWORD })).options.user.id).toBe(options.user.id);
		expect(await add({}, await as("rep2"))).toBe("Not added");
		expect(await add({ sealed: "nothing of ours" })).toBe("Not added");
		expect(await add({ sealed: (await askForPasskey()).sealed })).toBe("Not added");
		expect(await add({ response: device.make(options, { ...HERE, origin: "https://elsewhere.example" }) })).toBe("Not added");
		expect(await add({ response: device.make({ ...options, challenge: "b3RoZXI" }, HERE) })).toBe("Not added");
		expect(await add({ response: { id: "x", response: {} } })).toBe("Not added");
		const byKey = { ...rae, actor: { ...rae.actor, key: { id: "k", write: true, areas: [] } } } as unknown as typeof rae;
		expect(await add({}, byKey)).toBe("Not allowed");
		expect(await connection().db.$count(passkeys)).toBe(0);
		expect(await add({})).toBe("added");
		expect(await add({})).toBe("Known already");
		// Another offer names what is there, so that a device doesn’t make a second, and the person by the same handle.
		const next = await offerPasskey(rae, { password: PASSWORD });
		expect(next.options.excludeCredentials).toMatchObject([{ id: device.id }]);
		expect(next.options.user.id).toBe(options.user.id);
		expect(Buffer.from(options.user.id, "base64url").toString()).not.toContain("rep1");
	});

	test("opens nothing for another page, another’s key or person, without finger, face or PIN, or with a challenge of one’s own", async () => {
		const device = await added();
		const other = await added("rep2");
		const why = (how: Partial<Parameters<typeof device.answer>[1]>, by = device) => refusal(() => enter(by, how)).then((fault) => fault?.detail ?? "in");
		expect(await why({ origin: "https://elsewhere.example" })).toBe(REFUSED);
		expect(await why({ rpId: "elsewhere.example" })).toBe(REFUSED);
		expect(await why({ verified: false })).toBe(REFUSED);
		expect(await why({ handle: "c29tZWJvZHkgZWxzZQ" })).toBe(REFUSED);
		expect(await why({ handle: "" }, other)).toBe(REFUSED);
		expect(await why({}, authenticator())).toBe(REFUSED);
		const { options, sealed } = await askForPasskey();
		const mine = device.answer({ challenge: "bXkgb3du" }, HERE);
		expect((await refusal(() => enterByPasskey({ sealed, response: mine }, FROM)))?.detail).toBe(REFUSED);
		const borrowed = { ...other.answer(options, HERE), id: device.id, rawId: device.id };
		expect((await refusal(() => enterByPasskey({ sealed, response: borrowed }, FROM)))?.detail).toBe(REFUSED);
		const offered = await offerPasskey(await as("rep1"), { password: PASSWORD });
		const forAnother = device.answer(offered.options, HERE);
		expect((await refusal(() => enterByPasskey({ sealed: offered.sealed, response: forAnother }, FROM)))?.detail).toContain("took too long");
		expect(await why({})).toBe("in");
	});

	test("opens once with one answer, and not as a copy whose count went back", async () => {
		const device = await added();
		const { options, sealed } = await askForPasskey();
		const response = device.answer(options, HERE);
		const given = { sealed, response };
		const both = await Promise.allSettled([enterByPasskey(given, FROM), enterByPasskey(given, FROM)]);
		expect(both.map(({ status }) => status).sort()).toEqual(["fulfilled", "rejected"]);
		expect(await refusal(() => enterByPasskey(given, FROM))).toMatchObject({ status: 401 });
		device.setCount(0);
		expect((await refusal(() => enter(device)))?.detail).toBe(REFUSED);
	});

	test("that is removed, whose person has left, set a password by a link, or may not use passwords, opens nothing", async () => {
		const phone = await added();
		const key = await added("rep1", "Key");
		await removePasskey(await as("rep1"), { id: phone.id });
		expect((await refusal(() => enter(phone)))?.detail).toBe(REFUSED);
		const gil = await as("rep2");
		expect((await refusal(() => removePasskey(gil, { id: key.id })))?.status).toBe(404);
		const { path } = await makePasswordLink(await as("ops"), { id: "rep1" });
		await setPasswordByLink({ token: path.split("#")[1] ?? "", password: "eleven paper boats" });
		expect((await refusal(() => enter(key)))?.detail).toBe(REFUSED);

		await givePasswords();
		const again = await added();
		await connection().db.update(people).set({ activeTo: "2020-01-01" }).where(eq(people.id, "rep1"));
		await endWaysOfGone();
		await connection().db.update(people).set({ activeTo: null }).where(eq(people.id, "rep1"));
		expect((await refusal(() => enter(again)))?.detail).toBe(REFUSED);
	});

	test("is guessed at a few times from one place", async () => {
		const device = await added();
		const fates = [];
		for (let i = 0; i < 10; i++) fates.push((await refusal(() => enter(device, { verified: false })))?.status);
		expect(fates).toEqual([...Array(8).fill(401), 429, 429]);
		// The right answer doesn’t come in now either; another’s does.
		expect((await refusal(() => enter(device)))?.status).toBe(429);
		expect(await refusal(async () => enter(await added("rep2")))).toBeNull();
	});

	test("needs an address with a name", async () => {
		process.env.PORCH_LAMP_ADDRESS = "http://192.0.2.7:3000";
		try {
			expect((await refusal(async () => offerPasskey(await as("rep1"), { password: PASSWORD })))?.detail).toContain("this program’s address is numbers");
			expect((await readOwnSignIn(await as("rep1"), null)).passkeysAt).toBeNull();
			expect((await refusal(askForPasskey))?.status).toBe(401);
		} finally {
			process.env.PORCH_LAMP_ADDRESS = "http://127.0.0.1:3000";
		}
	});
});
