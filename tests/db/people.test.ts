import { eq, sql } from "drizzle-orm";
import { afterAll, beforeAll, beforeEach, describe, expect, test } from "vitest";
import { connection } from "@/data/db";
import { idempotencyKeys, people, targets as targetRows } from "@/data/schema";
import { removeDemo } from "@/features/begin/server/demo";
import { begin, beginPath, wayToBegin } from "@/features/begin/server/firstStart";
import { storedBundle } from "@/features/import/server/exportBundle";
import { createKey } from "@/features/people/server/keys";
import { removeTeam, savePerson, saveTeam } from "@/features/people/server/managePeople";
import { mergePeople, previewMerge } from "@/features/people/server/mergePeople";
import { makePasswordLink, setPasswordByLink } from "@/features/people/server/passwordLinks";
import { readPeople } from "@/features/people/server/readPeople";
import { signIn } from "@/features/people/server/signIn";
import { readCompany, saveCompany } from "@/features/setup/server/company";
import { writeNote } from "@/features/sheet/server/writeNote";
import { giveTasks } from "@/features/tasks/server/giveTasks";
import { systemWrite } from "@/platform/write";
import { small } from "../kit/bundle";
import { as, freshDatabase, givePasswords, importAs, PASSWORD, refill } from "../kit/database";
import { allDeals } from "../kit/deals";
import { faultOf } from "../kit/fault";

let database: Awaited<ReturnType<typeof freshDatabase>>;
beforeAll(async () => {
	database = await freshDatabase("people");
});
afterAll(() => database.drop());
beforeEach(async () => {
	await refill(small());
	await givePasswords();
});

const here = { source: "here", agent: "Test" };
const person = { id: null, name: "Ida Fenn", email: "ida@firm.example", role: "rep", team: "North", activeFrom: null, activeTo: null } as const;
const namesIn = async (team: string) =>
	readPeople(await as("ops"))
		.teams.find(({ name }) => name === team)
		?.people.map(({ name }) => name);
/** Everything in the database as text, but for what tells of what was done. */
async function everything(): Promise<string> {
	const { rows } = await connection().db.execute(
		sql`select tablename from pg_tables where schemaname = 'public' and tablename not in ('audit', 'change_log', 'import_undo')`,
	);
	const parts = [];
	for (const { tablename } of rows as { tablename: string }[])
		parts.push(JSON.stringify((await connection().db.execute(sql`select * from ${sql.identifier(tablename)}`)).rows));
	return parts.join("\n");
}

describe("people", () => {
	test("are made, moved, and ended; whoever has left is signed out and can’t come in", async () => {
		const { id } = await savePerson(await as("ops"), person);
		expect(await namesIn("North")).toContain("Ida Fenn");
		await savePerson(await as("ops"), { ...person, id, team: "South" });
		expect(await namesIn("South")).toContain("Ida Fenn");
		const { token } = await signIn({ email: "rae@firm.example", password: PASSWORD }, here);
		expect(token).toBeTruthy();
		const { openDeals } = await savePerson(await as("ops"), { ...person, id: "rep1", name: "Rae Penn", email: "rae@firm.example", activeTo: "2026-11-20" });
		expect(openDeals).toBe(1);
		expect(await faultOf(async () => signIn({ email: "rae@firm.example", password: PASSWORD }, here))).toMatchObject({ status: 401 });
	});
	test("have one address each, in any letters, days in their order, and a team that is there", async () => {
		const ops = await as("ops");
		expect(await faultOf(async () => savePerson(ops, { ...person, email: "RAE@firm.example" }))).toMatchObject({
			status: 409,
			detail: expect.stringContaining("Rae Penn"),
		});
		expect(await faultOf(async () => savePerson(ops, { ...person, activeFrom: "2026-11-02", activeTo: "2026-11-01" }))).toMatchObject({ status: 422 });
		expect(await faultOf(async () => savePerson(ops, { ...person, team: "Nowhere" }))).toMatchObject({ status: 422 });
		await expect(savePerson(ops, { ...person, activeFrom: "2026-02-30" })).rejects.toThrow();
	});
	test("of ops stay at least one, who can sign in", async () => {
		const ops = await as("ops");
		const self = { ...person, id: "ops", name: "Oda Pell", email: "ops@firm.example", team: "Firm" };
		expect(await faultOf(async () => savePerson(ops, self))).toMatchObject({ status: 422, title: "Someone with the role ops is needed" });
		expect((await as("ops")).actor.person.role).toBe("ops");
	});
	test("set their password by a link, once, that is stored nowhere and is audited without itself", async () => {
		const ops = await as("ops");
		const { id } = await savePerson(ops, person);
		const { path } = await makePasswordLink({ ...(await as("ops")), once: "one" }, { id });
		const token = path.split("#")[1] as string;
		expect(await everything()).not.toContain(token);
		expect(await faultOf(async () => setPasswordByLink({ token, password: "password12" }))).toMatchObject({ status: 422 });
		await setPasswordByLink({ token, password: "seven geese walk" });
		expect((await signIn({ email: "ida@firm.example", password: "seven geese walk" }, here)).token).toBeTruthy();
		expect(await faultOf(async () => setPasswordByLink({ token, password: "seven geese walk" }))).toMatchObject({ title: "This link has expired" });
		expect(await faultOf(async () => makePasswordLink({ ...(await as("ops")), once: "one" }, { id }))).toMatchObject({ status: 409, title: "Already done" });
	});
	test("a key’s token isn’t stored where what is sent twice is kept", async () => {
		const { token } = await createKey({ ...(await as("ops")), once: "two" }, { name: "k" });
		expect(await connection().db.select().from(idempotencyKeys)).not.toHaveLength(0);
		expect(await everything()).not.toContain(token);
	});
});

describe("teams", () => {
	test("are made, named anew with whoever is in them, and taken away when nobody is", async () => {
		const ops = await as("ops");
		await saveTeam(ops, { was: "North", name: "Northern", parent: "Firm" });
		expect(await namesIn("Northern")).toContain("Rae Penn");
		expect((await allDeals(await as("north"), {})).map(({ id }) => id).sort()).toEqual(["d1", "d3"]);
		expect(await faultOf(async () => removeTeam(await as("ops"), { name: "Northern" }))).toMatchObject({ status: 422, title: "Team isn’t empty" });
		await saveTeam(await as("ops"), { was: null, name: "Hills", parent: "Northern" });
		await removeTeam(await as("ops"), { name: "Hills" });
		expect(await namesIn("Hills")).toBeUndefined();
	});
	test("never stand above themselves", async () => {
		expect(await faultOf(async () => saveTeam(await as("ops"), { was: "Firm", name: "Firm", parent: "North" }))).toMatchObject({ title: "Circular teams" });
		expect(await faultOf(async () => saveTeam(await as("ops"), { was: "Firm", name: "Firm", parent: "Firm" }))).toMatchObject({ title: "Circular teams" });
		expect(await faultOf(async () => saveTeam(await as("ops"), { was: "North", name: "South", parent: null }))).toMatchObject({ status: 409 });
	});
});

describe("two entries of one person", () => {
	test("become one: what was the first’s is the second’s, nothing names the first, and its names mean the second", async () => {
		await giveTasks(await as("north"), { dealIds: ["d1"], title: "Call" });
		await writeNote(await as("rep1"), { dealId: "d1", body: "Rang the bell" });
		const ops = await as("ops");
		const seen = await previewMerge(ops, { from: "rep1", into: "north" });
		expect(seen.parts).toEqual(expect.arrayContaining(["2 versions of deals", "1 task", "1 note", "1 account"]));
		await mergePeople(ops, { from: "rep1", into: "north" });
		const [stays] = await connection().db.select().from(people).where(eq(people.id, "north"));
		expect(stays?.also).toEqual(expect.arrayContaining(["rep1", "Rae Penn", "rae@firm.example"]));
		expect((await everything()).replace(JSON.stringify(stays?.also), "")).not.toMatch(/"rep1"/);
		const deals = await allDeals(await as("ops"), {});
		expect(deals.filter(({ ownerId }) => ownerId === "north").map(({ id }) => id)).toEqual(["d1"]);
		expect(deals).toHaveLength(3);
	});
	test("a bundle that still has the old entry means the one who stays: nobody comes back, also a target of both is one", async () => {
		await mergePeople(await as("ops"), { from: "rep1", into: "north" });
		const targets = ["person_id,period_start,period_end,amount,currency", "rep1,2026-10-01,2026-12-31,900,EUR", "north,2026-10-01,2026-12-31,500,EUR"];
		const { problems, state } = await importAs(small({ "targets.csv": targets }));
		expect({ problems, state }).toEqual({ problems: [], state: "done" });
		const [stays] = await connection().db.select().from(people).where(eq(people.id, "north"));
		expect((await everything()).replace(JSON.stringify(stays?.also), "")).not.toMatch(/"rep1"/);
		expect((await allDeals(await as("ops"), {})).find(({ id }) => id === "d1")?.ownerId).toBe("north");
		expect(await connection().db.select({ amount: targetRows.amount }).from(targetRows)).toEqual([{ amount: 50_000 }]);
	});
	test("the same one twice, or one who isn’t there, is refused", async () => {
		expect(await faultOf(async () => mergePeople(await as("ops"), { from: "rep1", into: "rep1" }))).toMatchObject({ status: 422 });
		expect(await faultOf(async () => mergePeople(await as("ops"), { from: "rep1", into: "nobody" }))).toMatchObject({ status: 404 });
		expect(await faultOf(async () => mergePeople(await as("ops"), { from: "ops", into: "north" }))).toMatchObject({
			title: "Someone with the role ops is needed",
		});
	});
});

describe("the company", () => {
	test("changes its year, weekend and holidays, and what is counted follows; saving the same again changes nothing", async () => {
		const { company } = await readCompany(await as("ops"));
		const wish = { ...company, name: "Firm", weekend: [0], holidays: [{ date: "2026-12-24", name: "Eve" }] };
		await saveCompany(await as("ops"), wish);
		const { rules } = (await as("ops")).organisation.company;
		const day = (text: string) => Date.parse(`${text}T00:00:00Z`) / 86_400_000;
		expect(rules.calendar.isWorking(day("2026-11-28"))).toBe(true);
		expect(rules.calendar.isWorking(day("2026-12-24"))).toBe(false);
		expect((await readCompany(await as("ops"))).company).toEqual(wish);
		await saveCompany(await as("ops"), wish);
		expect((await readCompany(await as("ops"))).company).toEqual(wish);
	});
	test("keeps its currency once there are amounts, and refuses what isn’t one", async () => {
		const { company } = await readCompany(await as("ops"));
		expect(await faultOf(async () => saveCompany(await as("ops"), { ...company, baseCurrency: "USD" }))).toMatchObject({
			status: 422,
			title: "The currency is fixed",
		});
		await expect(saveCompany(await as("ops"), { ...company, timeZone: "Mars/Base" })).rejects.toThrow();
		await expect(saveCompany(await as("ops"), { ...company, holidays: [{ date: "2026-02-30", name: "" }] })).rejects.toThrow();
		expect(
			await faultOf(async () => saveCompany(await as("ops"), { ...company, holidays: [1, 2].map(() => ({ date: "2026-12-24", name: "" })) })),
		).toMatchObject({
			status: 422,
		});
	});
});

describe("beginning", () => {
	const given = {
		code: "",
		company: { name: "Firm", baseCurrency: "CHF", timeZone: "Europe/Zurich", fiscalStartMonth: 4, weekend: [0, 6] },
		holidays: [{ date: "2026-08-01", name: "" }],
		first: { name: "Una Reed", email: "una@firm.example", password: "seven geese walk" },
		others: [{ name: "Vic Lode", email: "vic@firm.example", role: "manager" as const, team: "Coast" }],
	};
	const clear = () => connection().db.execute(sql`truncate people, teams, organisation, deals, stages, rates cascade`);
	test("needs the printed code, makes the company with its people once, and lets them in", async () => {
		await clear();
		const path = await systemWrite(async (tx) => ({ result: await beginPath(tx), touched: "everything", audit: [] }));
		expect(await wayToBegin(null)).toBe("code");
		expect(await faultOf(async () => begin(null, { ...given, code: "guess" }))).toMatchObject({ status: 403 });
		expect(
			await faultOf(async () => begin(null, { ...given, code: path.split("#")[1] as string, first: { ...given.first, password: "password12" } })),
		).toMatchObject({
			status: 422,
		});
		const code = path.split("#")[1] as string;
		const both = await Promise.allSettled([begin(null, { ...given, code }), begin(null, { ...given, code })]);
		expect(both.map(({ status }) => status).sort()).toEqual(["fulfilled", "rejected"]);
		const done = both.find((one) => one.status === "fulfilled") as PromiseFulfilledResult<Awaited<ReturnType<typeof begin>>>;
		expect(done.value.links.map(({ name }) => name)).toEqual(["Vic Lode"]);
		await setPasswordByLink({ token: done.value.links[0]?.path.split("#")[1] as string, password: "eight grey herons" });
		expect((await signIn({ email: "vic@firm.example", password: "eight grey herons" }, here)).token).toBeTruthy();
		expect(await wayToBegin(null)).toBeNull();
		const [una] = await connection().db.select().from(people).where(eq(people.email, "una@firm.example"));
		const view = await readCompany(await as(una?.id as string));
		expect(view).toMatchObject({ first: "no deals", currencyFixed: false, company: { ...given.company, holidays: given.holidays } });
	});
	test("from the demo company: ops alone begin; it goes away with all that was tried, and only it", async () => {
		const demo = { people: ["boss", "north", "rep1", "rep2", "gone", "view", "ops"], before: null };
		await connection().db.execute(sql`update organisation set demo = ${JSON.stringify(demo)}::jsonb`);
		await giveTasks(await as("north"), { dealIds: ["d1"], title: "Call" });
		expect(await wayToBegin(await as("boss"))).toBeNull();
		expect(await faultOf(async () => begin(await as("boss"), given))).toMatchObject({ status: 409 });
		expect(await faultOf(async () => removeDemo(await as("ops"), {}))).toMatchObject({ title: "You belong to the demo" });
		await begin(await as("ops"), given);
		const [una] = await connection().db.select().from(people).where(eq(people.email, "una@firm.example"));
		const context = await as(una?.id as string);
		expect(context.organisation.people.map(({ name }) => name).sort()).toEqual(["Una Reed", "Vic Lode"]);
		expect(await allDeals(context, {})).toEqual([]);
		expect([...context.organisation.teams.keys()]).toEqual(["Coast"]);
		expect(await everything()).not.toContain("Millrace");
	});
	test("beside one’s own people the demo is one press away again, and the company is as it was", async () => {
		const before = await storedBundle();
		expect(before).toBeTruthy();
		await connection()
			.db.insert(people)
			.values({ ...person, id: "ida", role: "ops", team: null, passwordHash: "set" });
		await savePerson(await as("ops"), { ...person, name: "Made by the demo", email: "made@firm.example", role: "ops", team: null });
		const [ida] = await connection().db.select().from(people).where(eq(people.email, "ida@firm.example"));
		const demo = { people: ["boss", "north", "rep1", "rep2", "gone", "view", "ops"], before: { name: "Own", timeZone: "Europe/Zurich", fiscalStartMonth: 4 } };
		await connection().db.execute(sql`update organisation set demo = ${JSON.stringify(demo)}::jsonb`);
		await removeDemo(await as(ida?.id as string), {});
		const view = await readCompany(await as(ida?.id as string));
		expect((await as(ida?.id as string)).organisation.people.map(({ name }) => name)).toEqual(["Ida Fenn"]);
		expect(view).toMatchObject({ first: "no deals", company: { name: "Own", timeZone: "Europe/Zurich", fiscalStartMonth: 4, baseCurrency: "EUR" } });
		expect(await faultOf(async () => removeDemo(await as(ida?.id as string), {}))).toMatchObject({ title: "No demo company" });
	});
});
