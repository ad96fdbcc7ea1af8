import { readFile } from "node:fs/promises";
import { sql } from "drizzle-orm";
import fc from "fast-check";
import { afterAll, beforeAll, beforeEach, describe, expect, test } from "vitest";
import { carriedParts } from "@/core/period/targetCarry";
import { quarterOf } from "@/core/time/period";
import { connection } from "@/data/db";
import { readViews, saveView } from "@/features/deals/server/views";
import { storedBundle } from "@/features/import/server/exportBundle";
import { listTries } from "@/features/period/server/listTries";
import { readPeriodOfApi } from "@/features/period/server/periodJson";
import { previewRules } from "@/features/period/server/previewRules";
import { readPeriod } from "@/features/period/server/readPeriod";
import { carryTargets, readTargets, saveTargets, undoTargets } from "@/features/period/server/targets";
import { saveTry } from "@/features/period/server/tries";
import { readTryLater } from "@/features/period/server/tryLater";
import { endRound } from "@/features/rounds/server/endRound";
import { makeCall } from "@/features/rounds/server/makeCall";
import { readHeld } from "@/features/rounds/server/readHeld";
import { readMinutes } from "@/features/rounds/server/readMinutes";
import { readRounds } from "@/features/rounds/server/readRounds";
import { startRound } from "@/features/rounds/server/startRound";
import { saveCompany } from "@/features/setup/server/company";
import { readStages, saveStages } from "@/features/setup/server/stageSettings";
import { resolveViewpoint } from "@/platform/viewpoint";
import { small } from "../kit/bundle";
import { as, freshDatabase, refill } from "../kit/database";
import { faultOf } from "../kit/fault";

// A setting of today doesn't rewrite what was held, kept or sent: it names its days.
let database: Awaited<ReturnType<typeof freshDatabase>>;
beforeAll(async () => {
	database = await freshDatabase("calendar_change");
});
beforeEach(() => refill(small()));
afterAll(() => database.drop());

const COMPANY = { name: "Firm", baseCurrency: "EUR", timeZone: "Europe/Berlin", fiscalStartMonth: 1, weekend: [0, 6], holidays: [] };
/** The fiscal year begins in November from now on. */
const novemberYear = async () => saveCompany(await as("ops"), { ...COMPANY, fiscalStartMonth: 11 });

describe("what other rules would change", () => {
	const preview = async (input: Parameters<typeof previewRules>[1]) => {
		const { on } = await previewRules(await as("ops"), input);
		return on.map(({ name, figures }) => [name, Object.fromEntries(figures.map(({ label, before, after }) => [label, [before, after]]))] as const);
	};
	const STAGES = [
		{ name: "Enquiry", probability: 0.1, usualDays: 10 },
		{ name: "Survey", probability: 0.3, usualDays: 10 },
		{ name: "Terms", probability: 0.8, usualDays: 10 },
	];
	test("is nothing for what holds already", async () => {
		expect(await preview({ stages: STAGES })).toEqual([["today", {}]]);
		expect(await preview({ calendar: { fiscalStartMonth: 1, weekend: [0, 6], holidays: [] } })).toEqual([["today", {}]]);
	});
	test("of a stage’s chance is the weighted figure, today and on the days of marks, and is what then comes", async () => {
		await refill(small({ "marks.csv": ["at,name", "2026-11-12T07:00:00Z,Twelfth"] }));
		// d1 1 200 in Survey and d2 500 in Enquiry, d3 700 in Terms: 360 + 50 + 560 = 970; with ½ for Survey 600 + 50 + 560.
		const wish = STAGES.map((stage) => (stage.name === "Survey" ? { ...stage, probability: 0.5 } : stage));
		expect(await preview({ stages: wish })).toEqual([
			["today", { weighted: [97_000, 121_000] }],
			["Twelfth", { weighted: [97_000, 121_000] }],
		]);
		const stages = (await readStages(await as("ops"))).map(({ was, name, kind, probability, usualDays }) => ({
			was,
			name,
			kind,
			usualDays,
			probability: name === "Survey" ? 0.5 : probability,
		}));
		await saveStages(await as("ops"), { stages });
		const boss = await as("boss");
		expect((await readPeriod(boss, resolveViewpoint(boss, {})))?.figures.weighted).toBe(121_000);
	});
	test("of holidays is the working days left, and the flags that count them", async () => {
		const days = ["2026-11-25", "2026-11-26", "2026-12-24"].map((date) => ({ date, name: "" }));
		const [[, today] = []] = await preview({ calendar: { fiscalStartMonth: 1, weekend: [0, 6], holidays: days } });
		// 24 Nov to 31 Dec 2026: 27 working days, three of them holidays then.
		expect(today?.["working days left"]).toEqual([27, 24]);
		await saveCompany(await as("ops"), { ...COMPANY, holidays: days });
		expect(resolveViewpoint(await as("ops"), {}).workingDaysLeft).toBe(24);
	});
	test("of the fiscal year is the period itself", async () => {
		const [[, today] = []] = await preview({ calendar: { fiscalStartMonth: 11, weekend: [0, 6], holidays: [] } });
		expect(today?.period).toEqual(["Oct–Dec 2026", "Nov 2026–Jan 2027"]);
	});
	test("is told to those alone who may change the rules", async () => {
		expect((await faultOf(async () => previewRules(await as("boss"), { stages: [] }))).status).toBe(403);
	});
});

describe("a fiscal calendar by weeks", () => {
	const WEEKS = { pattern: "4-4-5", lastDay: 6, end: "last", month: 1 } as const;
	const settingsOut = async () => JSON.parse(new TextDecoder().decode((await storedBundle()).get("settings.json")));
	const period = async (query = {}) => resolveViewpoint(await as("boss"), query).due.key;
	test("of a bundle is what periods go by, on screens and in the API, and goes out again as it came", async () => {
		const settings = { timeZone: "Europe/Berlin", baseCurrency: "EUR", weekend: [0, 6], today: "2026-11-24", fiscalWeeks: { ...WEEKS, lastDay: "sat" } };
		await refill(small({ "settings.json": [JSON.stringify(settings)] }));
		expect(await period()).toBe("2026-11-01..2027-01-30");
		expect(await period({ due: "2027-Q1" })).toBe("2026-02-01..2026-05-02");
		const api = readPeriodOfApi(await as("boss"), {});
		expect([api.from, api.to]).toEqual(["2026-11-01", "2027-01-30"]);
		expect((await settingsOut()).fiscalWeeks).toEqual(WEEKS);
	});
	test("from a year on leaves the years before as they were, in files too, and goes back with undo", async () => {
		const fiscalBefore = [{ until: "2027-01-30", fiscalYearStartMonth: 1, fiscalWeeks: null }];
		await saveCompany(await as("ops"), { ...COMPANY, fiscalWeeks: WEEKS, fiscalBefore });
		// The thirty days between the two are too few for a quarter of their own.
		expect(await period()).toBe("2026-10-01..2027-01-30");
		expect(await period({ seen: "2026-09-01" })).toBe("2026-07-01..2026-09-30");
		expect(await period({ due: "2028-Q1" })).toBe("2027-01-31..2027-05-01");
		expect((await settingsOut()).fiscalBefore).toEqual(fiscalBefore);
		await saveCompany(await as("ops"), COMPANY);
		expect(await period({ due: "2028-Q1" })).toBe("2028-01-01..2028-03-31");
		expect(await settingsOut()).not.toHaveProperty("fiscalBefore");
	});
	test("is told before it is saved", async () => {
		const { on } = await previewRules(await as("ops"), { calendar: { fiscalStartMonth: 1, fiscalWeeks: WEEKS, weekend: [0, 6], holidays: [] } });
		expect(on[0]?.figures.find(({ label }) => label === "period")).toMatchObject({ before: "Oct–Dec 2026", after: "1 Nov 2026 – 30 Jan 2027" });
	});
});

describe("targets under another calendar", () => {
	const target = async (start: string, end: string, amount: number | null, more: { beside?: boolean } = {}) =>
		saveTargets(await as("boss"), { cells: [{ personId: "rep1", start, end, family: "", amount, currency: "EUR" }], ...more });
	const rows = async () => (await readTargets(await as("boss"))).targets.map(({ start, end, amount }) => [start, end, amount]).sort();
	const counted = async (due: string) => {
		const boss = await as("boss");
		return (await readPeriod(boss, resolveViewpoint(boss, { due })))?.figures.target;
	};
	test("aren’t doubled unseen: one on top of another is refused, unless it is meant beside it", async () => {
		await target("2026-10-01", "2026-12-31", 9_200_000);
		await novemberYear();
		const refused = await faultOf(async () => target("2026-11-01", "2027-01-31", 5_000_000));
		expect([refused.status, refused.detail]).toEqual([409, expect.stringContaining("Rae Penn has a target for 2026-10-01 to 2026-12-31")]);
		await target("2026-11-01", "2027-01-31", 5_000_000, { beside: true });
		expect(await counted("2026-11-01..2027-01-31")).toBe(6_100_000 + 5_000_000);
		// Setting the same again, or taking the other away with it, is no doubling.
		await target("2026-10-01", "2026-12-31", null);
		await target("2026-11-01", "2027-01-31", 6_000_000);
	});
	test("are carried over by their days: sums stay, and all of it comes back", async () => {
		await target("2026-10-01", "2026-12-31", 9_200_000);
		await novemberYear();
		const { change } = await carryTargets(await as("boss"), { targets: [{ personId: "rep1", start: "2026-10-01", end: "2026-12-31", family: "" }] });
		// 31 of 92 days lie in August to October, 61 in November to January.
		expect(await rows()).toEqual([
			["2026-08-01", "2026-10-31", 3_100_000],
			["2026-11-01", "2027-01-31", 6_100_000],
		]);
		await undoTargets(await as("boss"), { change });
		expect(await rows()).toEqual([["2026-10-01", "2026-12-31", 9_200_000]]);
	});
	test("that are gone, in another currency, or others’ aren’t carried over", async () => {
		await target("2026-10-01", "2026-12-31", 9_200_000);
		const key = { personId: "rep1", start: "2026-10-01", end: "2026-12-31", family: "" };
		expect((await faultOf(async () => carryTargets(await as("boss"), { targets: [{ ...key, end: "2026-12-30" }] }))).status).toBe(404);
		await refill(small({ "rates.csv": ["currency,date,rate", "GBP,2026-01-01,1.2"] }));
		await target("2026-10-01", "2026-12-31", 9_200_000);
		await saveTargets(await as("boss"), { beside: true, cells: [{ ...key, start: "2026-11-01", end: "2027-01-31", amount: 1, currency: "GBP" }] });
		await novemberYear();
		expect((await faultOf(async () => carryTargets(await as("boss"), { targets: [key] }))).title).toBe("Another currency");
		expect((await faultOf(async () => carryTargets(await as("north"), { targets: [{ ...key, personId: "rep2" }] }))).status).toBe(404);
	});
	test("parts of a target add up to it, however its days lie", () => {
		fc.assert(
			fc.property(
				fc.integer({ min: 0, max: 1e13 }),
				fc.integer({ min: 20_000, max: 21_000 }),
				fc.integer({ min: 0, max: 800 }),
				fc.integer({ min: 1, max: 12 }),
				(amount, start, days, first) => {
					const parts = carriedParts({ start, end: start + days, amount }, (on) => quarterOf(on, first));
					expect(parts.reduce((sum, part) => sum + part.amount, 0)).toBe(amount);
					for (const part of parts) expect(quarterOf(part.start, first)).toEqual({ start: part.start, end: part.end });
				},
			),
		);
	});
});

describe("another first month of the fiscal year", () => {
	test("leaves a round’s period and how its calls held as they were", async () => {
		const { id } = await startRound(await as("boss"), { calmToo: true });
		await makeCall(await as("boss"), { id, dealId: "d1", call: "holds" });
		await makeCall(await as("boss"), { id, dealId: "d2", call: "moves", to: "2027-01-20", why: "Board" });
		await endRound(await as("boss"), { id });
		const seen = async () => {
			const boss = await as("boss");
			const { period, after } = await readMinutes(boss, id);
			return { period, after, list: (await readRounds(boss)).rounds.map((one) => [one.period, one.moved]), held: await readHeld(boss) };
		};
		const before = await seen();
		expect(before.period).toBe("Oct–Dec 2026");
		await novemberYear();
		expect(await seen()).toEqual(before);
	});
	test("leaves a saved try and what it is held against as they were", async () => {
		const boss = await as("boss");
		const { id } = await saveTry(boss, {
			name: "t",
			shared: false,
			whose: "all",
			due: "2026-Q4",
			moves: [{ whom: { field: "deal", value: "d1" }, what: "win", percent: 100 }],
		});
		const before = await readTryLater(await as("boss"), id);
		await novemberYear();
		expect(await readTryLater(await as("boss"), id)).toEqual(before);
		expect((await listTries(await as("boss"))).map(({ due }) => due)).toEqual(["2026-10-01..2026-12-31"]);
	});
	test("leaves a saved view and an address that was sent at their days, while what nobody named follows", async () => {
		await saveView(await as("boss"), { name: "Last quarter", query: "flags=slipped&due=2026-Q3&sort=amount", shared: false });
		const sent = resolveViewpoint(await as("boss"), {}).due.key;
		await novemberYear();
		const boss = await as("boss");
		expect((await readViews(boss))[0]?.query).toBe("flags=slipped&due=2026-07-01..2026-09-30&sort=amount");
		expect(resolveViewpoint(boss, { due: sent }).due.label).toBe("Oct–Dec 2026");
		expect(resolveViewpoint(boss, {}).due).toMatchObject({ label: "Nov 2026–Jan 2027", key: "2026-11-01..2027-01-31" });
		expect((await readPeriod(boss, resolveViewpoint(boss, {})))?.from).toBe("2026-11-01");
	});
	test("finds what was kept by a quarter’s number before, and names its days", async () => {
		const { db } = connection();
		const { id } = await startRound(await as("boss"), { calmToo: true });
		await saveTry(await as("boss"), {
			name: "t",
			shared: false,
			whose: "all",
			due: "2026-Q4",
			moves: [{ whom: { field: "deal", value: "d1" }, what: "win", percent: 100 }],
		});
		await saveView(await as("boss"), { name: "v", query: "flags=slipped", shared: false });
		const set = (year: number) => db.execute(sql`update organisation set fiscal_start_month = ${year}`);
		const stored = async () => {
			const { rows } = await db.execute(
				sql`select (select due from rounds where id = ${id}) as round, (select due from tries) as try, (select query from views where name = 'v') as view`,
			);
			return rows[0];
		};
		const migration = await readFile("src/data/migrations/0027_days_not_quarters.sql", "utf8");
		for (const [first, key, span] of [
			[1, "2026-Q4", "2026-10-01..2026-12-31"],
			[4, "2027-Q1", "2026-04-01..2026-06-30"],
			[11, "2027-Q1", "2026-11-01..2027-01-31"],
		] as const) {
			await db.execute(sql`update rounds set due = ${key}`);
			await db.execute(sql`update tries set due = ${key}`);
			await db.execute(sql`update views set query = ${`due=${key}&flags=slipped`}`);
			await set(first);
			for (let times = 0; times < 2; times++) await db.execute(sql.raw(migration));
			expect(await stored()).toEqual({ round: span, try: span, view: `due=${span}&flags=slipped` });
		}
	});
});
