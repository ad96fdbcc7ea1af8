import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { editDeals } from "@/features/deals/server/editDeals";
import { readDeal } from "@/features/sheet/server/readDeal";
import { readSheet } from "@/features/sheet/server/readSheet";
import { takeBackNote, writeNote } from "@/features/sheet/server/writeNote";
import { as, freshDatabase, importAs, refill } from "../kit/database";
import { faultOf } from "../kit/fault";
import { told } from "../kit/toldDeal";

// What a sheet tells, told again by hand from the lines of the files.
let database: Awaited<ReturnType<typeof freshDatabase>>;
beforeAll(async () => {
	database = await freshDatabase("sheet_told");
	await importAs(told);
});
afterAll(() => database.drop());

const sheet = async (seen = "2026-11-24", who = "boss", id = "d1") => readSheet(await as(who), id, seen, "2026-11-09");

describe("a sheet tells", () => {
	test("the account: what it bought by year and product, its other deals, when it was last spoken to about any", async () => {
		const info = (await sheet()).accountInfo;
		expect(info).toMatchObject({ id: "a1", name: "Millrace Bread", lastTouch: "2026-11-23" });
		expect(info?.orders).toEqual([
			{ year: "2026", product: "no product named", count: 1, amount: 1000 },
			{ year: "2026", product: "Tray", count: 1, amount: 700 },
			{ year: "2025", product: "Mixer", count: 1, amount: 90_000 },
			{ year: "2025", product: "Oven", count: 2, amount: 15_050 },
		]);
		expect(info?.others).toEqual([
			{ id: "d7", name: "Larger mixer", status: "open", stage: "Enquiry", amount: 400_000, closed: null },
			{ id: "d3", name: "Left behind", status: "open", stage: "Terms", amount: 70_000, closed: null },
			{ id: "d4", name: "Proof room", status: "won", stage: "Won", amount: 90_000, closed: "2026-05-04" },
			{ id: "d6", name: "Slicer", status: "lost", stage: "Lost", amount: 7000, closed: "2026-06-02" },
			{ id: "d5", name: "No name", status: "lost", stage: "Lost", amount: 5000, closed: "2026-06-01" },
		]);
	});
	test("of the account only the deals whose owner is in reach", async () => {
		expect((await sheet("2026-11-24", "rep1")).accountInfo?.others.map(({ id }) => id)).toEqual(["d7", "d4", "d6", "d5"]);
	});
	test("the account as it was on an earlier day", async () => {
		const info = (await sheet("2026-11-17")).accountInfo;
		expect([info?.lastTouch, info?.orders[0], info?.orders.length]).toEqual([null, { year: "2026", product: "no product named", count: 1, amount: 1000 }, 3]);
		expect((await sheet("2026-11-18")).accountInfo?.lastTouch).toBe("2026-11-18");
	});
	test("quotes, with what was answered by the day", async () => {
		const answers = async (seen: string) => (await sheet(seen)).quotes.map(({ number, answer }) => [number, answer]);
		expect(await answers("2026-11-16")).toEqual([
			[null, null],
			["Q-1", null],
		]);
		expect(await answers("2026-11-17")).toEqual([
			[null, null],
			["Q-1", "Too dear"],
		]);
		expect((await answers("2026-11-24")).map(([, answer]) => answer)).toEqual(["Yes please", "answered", "Too dear"]);
		expect((await sheet()).quotes.at(-1)).toEqual({
			id: "k1",
			number: "Q-1",
			sent: "2026-11-10",
			valid: "2026-11-20",
			answer: "Too dear",
			amount: 120_000,
			currency: "EUR",
		});
	});
	test("the close plan: what is done and what is late by the day", async () => {
		const plan = async (seen: string) => (await sheet(seen)).plan.map(({ title, done, late }) => [title, done, late]);
		expect((await sheet()).plan[0]).toMatchObject({ title: "Price agreed", due: "2026-11-16", side: "ours" });
		expect(await plan("2026-11-24")).toEqual([
			["Price agreed", "2026-11-20", false],
			["Board decides", null, true],
			["Papers signed", null, false],
			["Ovens ordered", null, false],
		]);
		expect((await plan("2026-11-19")).slice(0, 2)).toEqual([
			["Price agreed", null, true],
			["Board decides", null, false],
		]);
		expect((await plan("2026-11-16"))[0]).toEqual(["Price agreed", null, false]);
	});
	test("people, each below the one they report to, and the roles that nobody has", async () => {
		const { people, missing, others } = await sheet();
		expect(people.map(({ id, depth, last, reportsTo }) => [id, depth, last, reportsTo])).toEqual([
			["c1", 0, "2026-11-18", null],
			["c2", 1, "2026-11-18", "c1"],
			["c3", 0, null, null],
			["c4", 1, null, "c3"],
		]);
		expect(people[0]).toMatchObject({ name: "Ada Holm", title: "Owner", email: "ada@bread.example", role: null });
		expect(missing).toEqual(["signatory"]);
		expect(others.map(({ id }) => id)).toEqual(["c9"]);
		expect((await sheet("2026-11-23")).others).toEqual([]);
		expect((await sheet("2026-11-24", "boss", "d2")).missing).toEqual(["signatory", "champion"]);
	});
	test("everything that happened, in words, the newest first", async () => {
		const { happenings } = await sheet();
		expect(happenings.map(({ day, kind, what, detail, by }) => [day, kind, what.replaceAll("\u00a0", " "), detail, by])).toEqual([
			["2026-12-01", "contact", "Visit: See the hall", null, "Rae Penn, Ada Holm"],
			["2026-11-24", "quote", "Quote Q-3 answered: Yes please", null, null],
			["2026-11-23", "quote", "Quote Q-3 sent, €1 101, valid until 20 Dec 2026", null, null],
			["2026-11-20", "internal", "Note: Chimney is old", null, "Rae Penn, Ada Holm"],
			["2026-11-20", "change", "Amount €1 200 → blank", null, null],
			["2026-11-19", "quote", "Quote answered: yes", null, null],
			["2026-11-19", "task", "Task done: Call them", null, "Rae Penn"],
			["2026-11-18", "task", "Task given: Ask again", null, "Rae Penn"],
			["2026-11-18", "contact", "Email: Asks for a price", "How much is it?", "Ada Holm, Ben Rye"],
			["2026-11-17", "quote", "Quote Q-1 answered: Too dear", null, null],
			["2026-11-12", "quote", "Quote sent", null, null],
			["2026-11-12", "answer", "What hurts? against us", "They like theirs", "Rae Penn"],
			["2026-11-12", "task", "Task given: Call them", null, "Rae Penn"],
			["2026-11-10", "quote", "Quote Q-1 sent, €1 200, valid until 20 Nov 2026", null, null],
			[
				"2026-11-10",
				"change",
				"Stage Enquiry → Survey; Amount €1 001 → €1 200; Close date 1 Dec 2026 → 18 Dec 2026; Category pipeline → best case; Next step Call → Visit; Next step’s day 5 Nov 2026 → 20 Nov 2026",
				null,
				null,
			],
			["2026-11-02", "change", "Opened in Enquiry", null, null],
		]);
		expect(happenings.filter(({ planned }) => planned).map(({ id, direction }) => [id, direction])).toEqual([["x4", "both"]]);
	});
	test("flags with the settings they fire by, and since when", async () => {
		const { flags, headline } = await sheet();
		const blank = flags.find(({ code }) => code === "blank-fields");
		expect(blank).toMatchObject({ since: "2026-11-20", days: 2 });
		expect(flags.find(({ code }) => code === "reply-owed")).toMatchObject({ since: "2026-11-20", settings: ["2 working days"] });
		expect(headline).toMatch(/^[A-Z].*; .*; and \d+ more flags?\.$/);
		expect((await sheet("2026-11-24", "boss", "d4")).headline).toBe("This deal is won.");
	});
	test("whose it is, and whether they still work here", async () => {
		expect(await sheet()).toMatchObject({ owner: "Rae Penn", ownerId: "rep1", ownerActive: true, stage: "Survey", ownAmount: null, ownCurrency: "EUR" });
		expect((await sheet("2026-11-24", "boss", "d3")).ownerActive).toBe(false);
	});
});

describe("who moved a close date, and why,", () => {
	test("is told with each date; a change that was deleted by undoing it is told as that", async () => {
		await refill(told);
		const move = async (closeDate: string, reason: string) => {
			const { versionId } = await readDeal(await as("boss"), "d1", undefined);
			return editDeals(await as("boss"), { targets: [{ id: "d1", versionId }], change: { closeDate, reason } });
		};
		await move("2027-01-15", "They asked for time");
		const { points, pushes } = (await sheet()).trail;
		expect(points.at(-1)).toEqual({ set: "2026-11-24", close: "2027-01-15", by: expect.any(String), reason: "They asked for time" });
		expect(points[0]).toMatchObject({ set: "2026-11-02", close: "2026-12-01", by: null, reason: null });
		expect(pushes).toBe(2);
		expect((await sheet()).trail.quarterEnds).toEqual(["2026-12-31", "2027-03-31"]);
		// Where it stands among what else happened on the day goes by the hour at which the test runs.
		const moved = (await sheet()).happenings.find(({ what }) => what === "Close date 18 Dec 2026 → 15 Jan 2027");
		expect(moved).toMatchObject({ kind: "change", detail: "They asked for time" });
	});
});

describe("a note", () => {
	test("calls on people by their whole names, and on nobody by part of one", async () => {
		await refill(told);
		const write = async (body: string) => (await writeNote(await as("boss"), { dealId: "d1", body })).mentions;
		expect(await write("@Rae Penn, have a look")).toEqual(["Rae Penn"]);
		expect(await write("@rae penn")).toEqual(["Rae Penn"]);
		expect(await write("@Rae Pennington and @Rae Penn2")).toEqual([]);
		expect(await write("Rae Penn was there")).toEqual([]);
		expect(await write("@Rae Pennington, not @Rae Penn.")).toEqual(["Rae Penn"]);
	});
	test("is deleted only by who wrote it, and then it is gone", async () => {
		const { id } = await writeNote(await as("boss"), { dealId: "d1", body: "Too soon" });
		const noted = async () => (await sheet()).happenings.filter(({ kind, what }) => kind === "note" && what === "Too soon");
		expect(await noted()).toMatchObject([{ by: expect.stringContaining(" ") }]);
		expect(await faultOf(async () => takeBackNote(await as("rep1"), { id }))).toMatchObject({
			status: 403,
			detail: "Only the person who wrote a note can delete it.",
		});
		expect(await faultOf(async () => takeBackNote(await as("boss"), { id: "note-none" }))).toMatchObject({ status: 404 });
		await takeBackNote(await as("boss"), { id });
		expect(await noted()).toEqual([]);
		expect(await faultOf(async () => takeBackNote(await as("boss"), { id }))).toMatchObject({ status: 404 });
	});
});
