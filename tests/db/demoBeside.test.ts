import { eq } from "drizzle-orm";
import { afterAll, beforeAll, beforeEach, expect, test } from "vitest";
import { connection } from "@/data/db";
import { apiKeys, organisationSettings, passwordLinks, people, sessions } from "@/data/schema";
import { recordChange } from "@/data/store/changeLog";
import { removeDemo } from "@/features/begin/server/demo";
import { begin } from "@/features/begin/server/firstStart";
import { createKey } from "@/features/people/server/keys";
import { savePerson } from "@/features/people/server/managePeople";
import { makePasswordLink, setPasswordByLink } from "@/features/people/server/passwordLinks";
import { signIn } from "@/features/people/server/signIn";
import { small } from "../kit/bundle";
import { as, freshDatabase, givePasswords, PASSWORD, refill } from "../kit/database";
import { faultOf } from "../kit/fault";

let database: Awaited<ReturnType<typeof freshDatabase>>;
beforeAll(async () => {
	database = await freshDatabase("demobeside");
});
afterAll(() => database.drop());
beforeEach(async () => {
	await refill(small());
	await givePasswords();
	await connection()
		.db.update(organisationSettings)
		.set({ demo: { people: DEMO, before: null } });
});

const DEMO = ["boss", "north", "rep1", "rep2", "gone", "view", "ops"];
const here = { source: "here", agent: "Test" };
const person = { id: null, name: "Ida Fenn", email: "ida@firm.example", role: "ops", team: null, activeFrom: null, activeTo: null } as const;
const byEmail = async (email: string) => (await connection().db.select().from(people).where(eq(people.email, email)))[0]?.id as string;
const ownOps = () =>
	connection().db.transaction(async (tx) => {
		await tx.insert(people).values({ ...person, id: "ida", passwordHash: "set" });
		await recordChange(tx, "everything");
	});

test("nobody of the demo signs in beside people of one’s own, nor whom they made", async () => {
	const email = (await connection().db.select().from(people).where(eq(people.id, "ops")))[0]?.email as string;
	await signIn({ email, password: PASSWORD }, here);
	await savePerson(await as("ops"), { ...person, name: "Created", email: "made@firm.example" });
	const { path } = await makePasswordLink(await as("ops"), { id: await byEmail("made@firm.example") });
	await setPasswordByLink({ token: path.split("#")[1] as string, password: "seven geese walk" });
	await signIn({ email: "made@firm.example", password: "seven geese walk" }, here);
	await ownOps();
	for (const [address, password] of [
		[email, PASSWORD],
		["made@firm.example", "seven geese walk"],
	] as const)
		expect(await faultOf(() => signIn({ email: address, password }, here))).toMatchObject({ status: 401, detail: expect.stringContaining("demo company") });
	expect(await faultOf(async () => makePasswordLink(await as("ida"), { id: "boss" }))).toMatchObject({ title: "Demo company" });
});

test("what the demo’s people made ends with it, and what one’s own made stays", async () => {
	await ownOps();
	await savePerson(await as("ops"), { ...person, name: "Created", email: "made@firm.example" });
	await savePerson(await as(await byEmail("made@firm.example")), { ...person, name: "Made of made", email: "made2@firm.example" });
	await savePerson(await as("ida"), { ...person, name: "Own", email: "own@firm.example" });
	await makePasswordLink(await as("ida"), { id: await byEmail("own@firm.example") });
	await createKey(await as("ops"), { name: "Theirs" });
	await createKey(await as("ida"), { name: "Mine" });
	await removeDemo(await as("ida"), {});
	const { db } = connection();
	expect((await db.select().from(people)).map(({ name }) => name).sort()).toEqual(["Ida Fenn", "Own"]);
	expect((await db.select().from(apiKeys)).map(({ name }) => name)).toEqual(["Mine"]);
	expect(await db.select().from(passwordLinks)).toHaveLength(1);
});

test("a link that the demo made for somebody of one’s own ends too", async () => {
	await ownOps();
	await makePasswordLink(await as("ops"), { id: "ida" });
	await removeDemo(await as("ida"), {});
	expect(await connection().db.select().from(passwordLinks)).toEqual([]);
});

test("beginning ends every session, key and link made before, and says who has the rights of ops", async () => {
	const { db } = connection();
	await ownOps();
	await createKey(await as("ida"), { name: "Before" });
	await makePasswordLink(await as("ida"), { id: "ida" });
	await db.insert(sessions).values({ tokenHash: "x", personId: "ida", expiresAt: new Date(Date.now() + 1e6) });
	const { ops } = await begin(await as("ops"), {
		code: "",
		company: { name: "Firm", baseCurrency: "CHF", timeZone: "Europe/Zurich", fiscalStartMonth: 4, weekend: [0, 6] },
		holidays: [],
		first: { name: "Una Reed", email: "una@firm.example", password: "seven geese walk" },
		others: [{ name: "Vic Lode", email: "vic@firm.example", role: "ops", team: null }],
	});
	expect(ops).toEqual(["Ida Fenn", "Una Reed", "Vic Lode"]);
	expect(await db.select().from(sessions)).toEqual([]);
	expect(await db.select().from(apiKeys)).toEqual([]);
	expect(await db.select().from(passwordLinks)).toHaveLength(1);
});
