import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { surveyOn } from "@/core/survey";
import { formatDay } from "@/core/time/day";
import { readAccountLog } from "@/features/accounts/server/accountLog";
import { readActivity } from "@/features/accounts/server/activity";
import { listAccounts } from "@/features/accounts/server/listAccounts";
import { readAccountOfApi } from "@/features/accounts/server/readAccount";
import { listTurns } from "@/features/accounts/server/turns";
import { more, small } from "../kit/bundle";
import { day } from "../kit/company";
import { as, freshDatabase, importAs } from "../kit/database";
import { faultOf } from "../kit/fault";

const D = day("2026-11-24");
const ago = (days: number, hour = "09") => `${formatDay(D - days)}T${hour}:00:00Z`;
let n = 0;
const said = (
	deal: string,
	account: string,
	contacts: string,
	direction: string,
	days: number,
	given: { by?: string; kind?: string; state?: string; hour?: string; subject?: string } = {},
) =>
	`x${String(n++).padStart(3, "0")},${deal},${account},${contacts},${given.kind ?? "call"},${direction},${given.state ?? "done"},${ago(days, given.hour)},${given.by ?? "rep1"},${given.subject ?? ""},`;
const bakery = ["b1", "b2", "b3", "b4", "b5"];

let database: Awaited<ReturnType<typeof freshDatabase>>;
beforeAll(async () => {
	database = await freshDatabase("account_figures");
	await importAs(
		small({
			...more(
				"accounts.csv",
				...bakery.map((id) => `${id},Bakery ${id},customer,Bakery,Coast,rep2`),
				"quiet,Quiet Mill,customer,Mill,Alps,rep1",
				"none,Never Spoken,prospect,Mill,Alps,rep1",
			),
			"contacts.csv": [
				"id,account_id,name,title,email,buying_role,reports_to_id",
				"c,a1,Paloma Dvorak,owner,,influencer,signs",
				"signs,a1,Emil Yilmaz,director,,decision_maker,",
				"q,quiet,Quinn Abara,,,unknown,",
			],
			"activities.csv": [
				"id,deal_id,account_id,contact_ids,kind,direction,state,at,by_id,subject,body",
				// The tie of the worked example, on deals and beside them.
				said("d1", "a1", "c", "both", 10),
				said("d3", "a1", "c", "both", 100),
				said("", "a1", "c", "both", 370),
				said("", "a1", "c", "in", 45, { kind: "email", subject: "When does the service plan end?" }),
				said("d1", "a1", "c", "out", 0, { kind: "email" }),
				said("d1", "a1", "signs", "both", 200, { by: "gone" }),
				said("", "a1", "signs", "both", 300, { by: "rep2" }),
				said("d1", "a1", "", "both", -3, { state: "planned", kind: "visit" }),
				said("", "a1", "", "none", 1, { kind: "note", subject: "Asked 100% twice" }),
				said("", "quiet", "q", "in", 92, { by: "rep1" }),
				said("", "b1", "", "out", 5, { by: "rep2" }),
				said("", "b2", "", "out", 8, { by: "rep2" }),
				said("", "b3", "", "out", 8, { by: "rep2" }),
				said("", "b3", "", "none", -4, { by: "rep2", state: "planned", kind: "visit" }),
				said("", "b4", "", "both", 366, { by: "rep2" }),
			],
			"orders.csv": [
				"account_id,date,product,amount,currency",
				`quiet,${formatDay(D - 400)},Deck oven D4,40000,EUR`,
				`quiet,${formatDay(D - 20)},Peel,28000,EUR`,
				...["b1", "b2"].map((id) => `${id},${formatDay(D - 30)},Deck oven D4,1000,EUR`),
				`b3,${formatDay(D - 800)},Mixer,1000,EUR`,
				`a1,${formatDay(D - 900)},Mixer,500,EUR`,
			],
			"deal_lines.csv": ["deal_id,product,family,quantity,list_price,unit_price,currency", "d1,Deck oven D4,Ovens,1,1200,1200,EUR"],
			"tasks.csv": ["id,deal_id,title,assignee_id,due_on,created_at,done_at,state,flags", `t1,d1,Ask them,rep1,${formatDay(D - 2)},${ago(9)},,open,`],
		}),
	);
});
afterAll(() => database.drop());

describe("accounts", () => {
	test("are told with last contact, band, purchases, risk and what is open; those of some people alone", async () => {
		const ops = await as("ops");
		const { items } = await listAccounts(ops, {});
		expect(items.map(({ id }) => id)).toEqual([...ops.organisation.accounts.keys()].sort());
		const of = (id: string) => items.find((one) => one.id === id);
		expect(of("a1")).toMatchObject({ lastContact: "2026-11-24", band: { from: 0, to: 14 }, atRisk: false, open: { count: 2, amount: 190_000 } });
		expect(of("quiet")).toMatchObject({
			lastContact: formatDay(D - 92),
			band: { from: 92, to: null },
			bought: { last365: 2_800_000, before365: 4_000_000, trend: 0.7 },
			atRisk: true,
		});
		// Spoken to, but longer than a year ago.
		expect(of("b4")).toMatchObject({ lastContact: null, band: null, atRisk: false });
		expect((await listAccounts(await as("rep1"), {})).items.map(({ id }) => id)).toEqual(["a1", "none", "quiet"]);
		expect((await listAccounts(ops, { owner: "rep1", risk: true })).items.map(({ id }) => id)).toEqual(["quiet"]);
		expect((await listAccounts(ops, { team: "South" })).items.map(({ id }) => id)).toEqual(["a2", ...bakery]);
	});
	test("are each in one band, and those of all bands are all of them", async () => {
		const ops = await as("ops");
		const bands = ["up_to_14", "15_to_42", "43_to_91", "over_91", "never"];
		const ids = (await Promise.all(bands.map(async (band) => (await listAccounts(ops, { band })).items.map(({ id }) => id)))).flat();
		expect(ids.sort()).toEqual((await listAccounts(ops, {})).items.map(({ id }) => id));
		expect(await faultOf(async () => listAccounts(ops, { band: "up_to_1" }))).toMatchObject({ status: 400 });
	});
	test("go on page by page, and read as they stood on an earlier day", async () => {
		const ops = await as("ops");
		const first = await listAccounts(ops, {}, { limit: 3 });
		const rest = await listAccounts(ops, {}, { cursor: first.next ?? "", limit: 100 });
		expect([...first.items, ...rest.items]).toEqual((await listAccounts(ops, {})).items);
		const early = (await listAccounts(ops, { as_of: formatDay(D - 50) })).items.find(({ id }) => id === "quiet");
		expect(early).toMatchObject({ lastContact: formatDay(D - 92), band: { from: 15, to: 42 }, bought: { last365: 4_000_000, before365: 0, trend: null } });
	});
});

describe("one account", () => {
	test("tells who knows whom as in the worked example, and the ways in: who decides first, of those who work here", async () => {
		const account = await readAccountOfApi(await as("ops"), "a1", undefined);
		expect(account.ties[0]).toMatchObject({ contactId: "c", personId: "rep1", word: "close", conversations: 3, last: "2026-11-24", answers: null });
		expect(account.ties[0]?.tie).toBeCloseTo(2.09592, 5);
		expect(account.ties.map(({ contactId, personId, word }) => [contactId, personId, word])).toEqual([
			["c", "rep1", "close"],
			["signs", "gone", "faint"],
			["signs", "rep2", "faint"],
		]);
		expect(account.waysIn).toEqual([
			{ contactId: "signs", personId: "rep2" },
			{ contactId: "c", personId: "rep1" },
		]);
		expect(account.contacts.map(({ id, lastContact, reportsToId }) => [id, lastContact, reportsToId])).toEqual([
			["signs", formatDay(D - 200), null],
			["c", "2026-11-24", "signs"],
		]);
	});
	test("tells what it bought by year, and what accounts like it buy and it never did", async () => {
		const quiet = await readAccountOfApi(await as("ops"), "quiet", undefined);
		expect(quiet.years).toEqual([
			{ year: "2026", amount: 2_800_000, products: [{ product: "Peel", amount: 2_800_000 }] },
			{ year: "2025", amount: 4_000_000, products: [{ product: "Deck oven D4", amount: 4_000_000 }] },
		]);
		expect((await readAccountOfApi(await as("ops"), "a1", undefined)).neverBought).toEqual(["Ovens"]);
		expect((await readAccountOfApi(await as("ops"), "b1", undefined)).neverBought).toEqual([]);
		expect((await readAccountOfApi(await as("ops"), "none", undefined)).neverBought).toEqual([]);
	});
	test("is read by those alone who own it or have a deal there, with the deals they reach", async () => {
		expect((await readAccountOfApi(await as("rep1"), "a1", undefined)).deals.map(({ id }) => id)).toEqual(["d1"]);
		expect((await readAccountOfApi(await as("north"), "a1", undefined)).deals.map(({ id }) => id).sort()).toEqual(["d1", "d3"]);
		for (const id of ["a1", "quiet", "nowhere"])
			expect(await faultOf(async () => readAccountOfApi(await as("rep2"), id, undefined)), id).toMatchObject({ status: 404 });
	});
});

describe("the log of an account", () => {
	const log = async (who: string, filter = {}, asOf = D) => (await readAccountLog(await as(who), "a1", asOf, filter, { limit: 100 })).items;
	test("has all that was said, done and planned, the newest first; a rep reads that of their own deals and of the account itself", async () => {
		const all = await log("ops");
		expect(all).toHaveLength(9);
		expect(all.map(({ at }) => at)).toEqual(
			all
				.map(({ at }) => at)
				.sort()
				.reverse(),
		);
		expect(all[0]).toMatchObject({ state: "planned", kind: "visit" });
		expect((await log("rep1")).map(({ dealId }) => dealId)).not.toContain("d3");
		expect(await log("rep1")).toHaveLength(8);
		expect(await faultOf(async () => log("rep2"))).toMatchObject({ status: 404 });
	});
	test("is filtered by kind, person of ours or of theirs, and deal, and searched in word by word", async () => {
		expect(await log("ops", { kind: "email" })).toHaveLength(2);
		expect(await log("ops", { person: "signs" })).toHaveLength(2);
		expect(await log("ops", { person: "gone" })).toHaveLength(1);
		expect((await log("ops", { deal: "d3" })).map(({ dealId }) => dealId)).toEqual(["d3"]);
		expect((await log("ops", { deal: "none" })).every(({ dealId }) => dealId === null)).toBe(true);
		expect((await log("ops", { q: "PLAN service" })).map(({ subject }) => subject)).toEqual(["When does the service plan end?"]);
		expect(await log("ops", { q: "100%" })).toHaveLength(1);
		expect(await log("ops", { q: "1_0%" })).toHaveLength(0);
		expect(await log("ops", { q: "plan ".repeat(5000) })).toHaveLength(1);
	});
	test("reads as it stood on an earlier day, and goes on page by page without a gap", async () => {
		expect((await log("ops", {}, D - 50)).every(({ at, state }) => state === "planned" || at <= ago(50, "23"))).toBe(true);
		const seen: string[] = [];
		for (let cursor: string | null | undefined; cursor !== null; ) {
			const { items, next } = await readAccountLog(await as("ops"), "a1", D, {}, { cursor, limit: 2 });
			seen.push(...items.map(({ id }) => id));
			cursor = next;
		}
		expect(seen).toEqual((await log("ops")).map(({ id }) => id));
		expect(await faultOf(async () => readAccountLog(await as("ops"), "a1", D, {}, { cursor: "x", limit: 2 }))).toMatchObject({ status: 400 });
	});
});

test("whose turn it is: deals and accounts without one, they who wait first, then whom to ask again, then the rest", async () => {
	const { items } = await listTurns(await as("ops"), {});
	expect(items).toEqual([
		{ accountId: "quiet", side: "they", since: formatDay(D - 92), workingDays: 66, askAgain: null },
		{ accountId: "b2", side: "we", since: formatDay(D - 8), workingDays: 6, askAgain: formatDay(D - 1) },
		{ dealId: "d1", side: "we", since: "2026-11-24", workingDays: 0, askAgain: formatDay(D - 2) },
		{ accountId: "b3", side: "we", since: formatDay(D - 8), workingDays: 6, askAgain: formatDay(D + 4) },
		{ accountId: "b1", side: "we", since: formatDay(D - 5), workingDays: 3, askAgain: formatDay(D + 2) },
	]);
	expect((await listTurns(await as("rep1"), {})).items.map(({ dealId, accountId }) => dealId ?? accountId)).toEqual(["quiet", "d1"]);
	const { organisation } = await as("ops");
	const waiting = surveyOn(organisation.company, D).deals.filter((seen) => seen?.status === "open" && seen.contact.waiting);
	expect(items.filter(({ dealId }) => dealId)).toHaveLength(waiting.length);
});

test("contacts by person add up to what was said, by kind too; what is usual is that of the spans before", async () => {
	const read = async (who: string, from: string, to: string) => (await readActivity(await as(who), { from, to })).people;
	const month = await read("ops", "2026-11-01", "2026-11-30");
	const of = (id: string) => month.find((one) => one.id === id);
	expect(of("rep1")).toMatchObject({ touches: 2, workingDays: 17, kinds: { call: 1, email: 1 }, planned: 1, notDone: 0, usual: 0 });
	expect(of("rep1")?.perDay).toBeCloseTo(2 / 17, 9);
	expect(of("rep2")).toMatchObject({ touches: 3, planned: 1 });
	for (const { touches, kinds } of month) expect(Object.values(kinds).reduce((sum, k) => sum + k, 0)).toBe(touches);
	expect(month.map(({ id }) => id)).not.toContain("gone");
	expect((await read("rep1", "2026-11-01", "2026-11-30")).map(({ id }) => id)).toEqual(["rep1"]);
	expect(await faultOf(async () => read("ops", "2020-01-01", "2026-11-30"))).toMatchObject({ status: 400 });
	// Two halves of a span hold what the whole does.
	const [one, two] = [await read("ops", "2026-11-01", "2026-11-14"), await read("ops", "2026-11-15", "2026-11-30")];
	const sum = (people: typeof month) => people.reduce((all, { touches }) => all + touches, 0);
	expect(sum(one) + sum(two)).toBe(sum(month));
});
