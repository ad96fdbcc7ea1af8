import { sql } from "drizzle-orm";
import { afterAll, afterEach, beforeAll, describe, expect, test } from "vitest";
import { formatDay } from "@/core/time/day";
import { fiscalOf } from "@/core/time/fiscal";
import { connection } from "@/data/db";
import { closes } from "@/data/schema";
import { recordChange } from "@/data/store/changeLog";
import { generate } from "@/fakes/emberwick/generate";
import { readBridge } from "@/features/changes/server/bridgeJson";
import { closeByItself, closesByItself } from "@/features/closes/server/byItself";
import { closePeriod, correctClose, reopenPeriod, writeCloseNote } from "@/features/closes/server/closePeriod";
import { closeFile } from "@/features/closes/server/files";
import { listCloses, readClose, readCloseById } from "@/features/closes/server/readClose";
import { sealOf } from "@/features/closes/server/seal";
import { closeHeadline, closeMarkdown, closeSentences } from "@/features/closes/table/words";
import { listDeals } from "@/features/deals/server/listDeals";
import { readPeriodOfApi } from "@/features/period/server/periodJson";
import type { Context } from "@/platform/context";
import { resolveViewpoint } from "@/platform/viewpoint";
import { systemWrite } from "@/platform/write";
import { day } from "../kit/company";
import { as, freshDatabase, importAs } from "../kit/database";
import { faultOf } from "../kit/fault";

let database: Awaited<ReturnType<typeof freshDatabase>>;
beforeAll(async () => {
	database = await freshDatabase("closes");
	await importAs(generate({ today: day("2026-11-24"), deals: 240 }));
});
afterAll(() => database.drop());

const OPS = "arno";
const Q3 = { from: "2026-07-01", to: "2026-09-30" };
const read = async (context: Context, query = {}, id?: string) => {
	const view = await readClose(context, resolveViewpoint(context, { due: "2026-Q3", ...query }), id);
	if (!view) throw new Error("no period");
	return view;
};
const sumOf = (list: readonly { readonly count: number; readonly amount: number }[]) =>
	list.reduce((sum, one) => ({ count: sum.count + one.count, amount: sum.amount + one.amount }), { count: 0, amount: 0 });

describe("how a period ended", () => {
	for (const [who, whose, of] of [
		["helena", "all", {}],
		["ruth", "team:North", { team: "North" }],
	] as const)
		test(`says to the cent what the period, the bridge and their parts say: ${whose}`, async () => {
			const context = await as(who);
			const { account } = await read(context, { whose });
			const { won, lost, open, target } = readPeriodOfApi(context, { ...Q3, as_of: Q3.to, ...of });
			expect(account).toMatchObject({ won, lost, open, target });
			const bridge = readBridge(context, { a: "2026-06-30", b: Q3.to, ...Q3, ...of });
			expect(account.went.map(({ count, amount }) => [count, amount])).toEqual([
				[bridge.openingCount, bridge.opening],
				...bridge.steps.map(({ count, amount }) => [count, amount]),
				[bridge.closingCount, bridge.closing],
			]);
			expect(account.went.at(-1)).toMatchObject(open);
			expect(account.went.slice(0, -1).reduce((sum, { leaves, amount }) => sum + (leaves ? -amount : amount), 0)).toBe(open.amount);
			for (const kind of ["won", "lost", "open"] as const) {
				expect(sumOf(account.reps.map((rep) => rep[kind])), kind).toEqual(account[kind]);
				expect(sumOf(account.teams.map((team) => team[kind])), kind).toEqual(account[kind]);
				// A deal of several families counts in each, with its share of the amount.
				expect(
					account.families.reduce((sum, family) => sum + family[kind].amount, 0),
					kind,
				).toBe(account[kind].amount);
			}
			expect(account.points.at(-1)).toMatchObject({ day: Q3.to, won: won.amount });
			for (let i = 1; i < account.points.length; i++) expect(account.points[i]?.won).toBeGreaterThanOrEqual(account.points[i - 1]?.won ?? 0);
			expect(account.committed.came.count).toBeLessThanOrEqual(account.committed.said.count);
			expect(account.words.reduce((sum, { commit }) => sum + commit.won, 0)).toBe(account.committed.came.count);
			expect(account.words.reduce((sum, { commit }) => sum + commit.of, 0)).toBe(account.committed.said.count);
			const pushed = account.went.find(({ kind }) => kind === "pushed-out");
			expect(account.words.reduce((sum, one) => sum + one.pushed.n, 0)).toBe(pushed?.count);
			expect(account.words.reduce((sum, one) => sum + one.pushed.late, 0)).toBe(account.lastDays.pushed.count);
			for (const deal of pushed?.deals ?? []) expect(deal.leftOn && deal.leftOn <= Q3.to && (deal.close ?? "") > Q3.to).toBe(true);
			for (const { low, middle, high } of account.outlooks) expect(low <= middle && middle <= high).toBe(true);
			for (const { amount, chance, wonFor } of account.differences)
				if (wonFor === null) expect(amount).toBeLessThanOrEqual(0);
				else expect(Math.abs(amount)).toBeLessThanOrEqual(Math.round(wonFor * (1 + chance)));
		});
	test("is told in a sentence, in Markdown and as a workbook, with the same figures", async () => {
		const context = await as("helena");
		const view = await read(context, { whose: "all" });
		expect(closeHeadline(view.account)).toMatch(/^€[\d.]+[mk] of €[\d.]+[mk] was won: \d+%$/);
		expect(closeSentences(view.account).join(" ")).toMatch(/was pushed out.*in commit, and \d+ came/);
		const text = closeMarkdown(view);
		for (const { name } of view.account.reps) expect(text).toContain(`| ${name} |`);
		expect(text).toContain("Nobody has closed it yet");
		const file = await closeFile.read(context, resolveViewpoint(context, { due: "2026-Q3", whose: "all" }), () => undefined);
		const all = file.rows.at(-1);
		expect([all?.[0], all?.[3]]).toEqual(["All", view.account.won.amount]);
		expect(file.rows.slice(0, -1).reduce((sum, row) => sum + Number(row[3]), 0)).toBe(view.account.won.amount);
	});
	test("is that of the period before while the sentence’s own runs", async () => {
		expect((await read(await as("helena"), { due: "2026-Q4" })).due).toBe("2026-07-01..2026-09-30");
	});
	test("may be read by a rep of their own deals, who closes nothing", async () => {
		const ines = await as("ines");
		const view = await read(ines, { whose: "person:ines" });
		expect(view).toMatchObject({ kept: [], mayClose: false, mayReopen: false });
		expect((await faultOf(async () => closePeriod(ines, { whose: "team:North", ...Q3 }))).status).toBe(403);
	});
});

describe("a close", () => {
	test("is refused while the period runs, twice, and for people one doesn’t see in full", async () => {
		const ruth = await as("ruth");
		const refused = async (given: Parameters<typeof closePeriod>[1]) => faultOf(async () => closePeriod(ruth, given));
		expect(await refused({ whose: "team:North", from: "2026-10-01", to: "2026-12-31" })).toMatchObject({ status: 422, title: "Not over" });
		expect(await refused({ whose: "team:North", from: "2026-09-30", to: "2026-07-01" })).toMatchObject({ status: 422 });
		for (const whose of ["all", "team:South", "team:None", "person:ines"]) expect(await refused({ whose, ...Q3 }), whose).toMatchObject({ status: 403 });
		await closePeriod(ruth, { whose: "team:North", ...Q3, note: "We committed what we hoped." });
		expect(await refused({ whose: "team:North", ...Q3 })).toMatchObject({ status: 409, title: "Already closed" });
	});
	test("stays as it was told, sealed, and verifies after whatever is written to the past later; the new reading is a correction", async () => {
		const ruth = await as("ruth");
		const closed = await read(ruth);
		expect(closed.shown).toMatchObject({ whole: true, by: "Ruth Calloway", note: "We committed what we hoped.", correction: 0 });
		expect(closed.since).toBeNull();
		const before = closed.account;
		// A deal of the quarter turns out to have been worth a thousand more.
		const won = (await listDeals(ruth, { status: "won", team: "North", as_of: Q3.to }, {})).items.find(({ closedOn }) => (closedOn ?? "") >= Q3.from);
		await connection().db.execute(sql`update deal_versions set amount = amount + 100000 where deal_id = ${won?.id}`);
		await connection().db.transaction((tx) => recordChange(tx, "everything"));
		const later = await as("ruth", "2027-09-30");
		const after = await read(later);
		expect(after.account).toEqual(before);
		expect(after.shown?.whole).toBe(true);
		expect(after.since?.won).toBeGreaterThan(0);
		const close = after.kept[0];
		await correctClose(later, { id: close?.id ?? "", why: "Signed on the 30th, entered late" });
		const corrected = await read(later);
		expect(corrected.kept.map(({ correction, why, whole }) => [correction, why, whole])).toEqual([
			[0, null, true],
			[1, "Signed on the 30th, entered late", true],
		]);
		expect(corrected.account.won.amount).toBe(before.won.amount + (after.since?.won ?? 0));
		expect(corrected.since).toBeNull();
		expect((await read(later, {}, close?.id)).account).toEqual(before);
	});
	test("that somebody changes in the database no longer verifies", async () => {
		const [row] = await connection().db.select().from(closes).limit(1);
		if (!row) throw new Error("nothing is closed");
		expect(sealOf(row)).toBe(row.seal);
		expect(sealOf({ ...row, account: { ...row.account, won: { ...row.account.won, amount: row.account.won.amount + 1 } } })).not.toBe(row.seal);
		expect(sealOf({ ...row, byId: "helena" })).not.toBe(row.seal);
	});
	test("is seen in lists by those who see all whom it tells of", async () => {
		const seen = async (who: string) => (await listCloses(await as(who))).map(({ whose, correction }) => `${whose} ${correction}`);
		expect(await seen("ruth")).toEqual(await seen("helena"));
		expect((await seen("ruth")).sort()).toEqual(["team:North 0", "team:North 1"]);
		expect(await seen("ines")).toEqual([]);
		const [line] = await listCloses(await as("ruth"));
		const { account, note, ...rest } = await readCloseById(await as("ruth"), line?.id ?? "");
		expect([rest, note]).toEqual([line, "We committed what we hoped."]);
		expect(account).toEqual((await read(await as("ruth"), {}, line?.id)).account);
		expect((await faultOf(async () => readCloseById(await as("ines"), line?.id ?? ""))).status).toBe(404);
		expect(await seen("tomas")).toEqual([]);
	});
	test("is reopened by ops alone, closed anew, and given a paragraph once", async () => {
		const ruth = await as("ruth");
		const [first] = (await read(ruth)).kept;
		const id = first?.id ?? "";
		expect((await faultOf(async () => reopenPeriod(ruth, { id }))).status).toBe(403);
		await reopenPeriod(await as(OPS), { id });
		expect((await read(ruth)).kept).toEqual([]);
		expect((await faultOf(async () => correctClose(ruth, { id, why: "again" }))).status).toBe(409);
		expect((await faultOf(async () => reopenPeriod(await as(OPS), { id }))).status).toBe(409);
		const anew = await closePeriod(ruth, { whose: "team:North", ...Q3 });
		await writeCloseNote(ruth, { id: anew.id, note: "Once more." });
		expect((await faultOf(async () => writeCloseNote(ruth, { id: anew.id, note: "And again." }))).status).toBe(409);
		expect((await read(ruth)).shown).toMatchObject({ note: "Once more.", noteBy: "Ruth Calloway", whole: true });
		expect((await listCloses(ruth)).filter(({ reopened }) => reopened)).toHaveLength(2);
	});
});

test("what nobody has closed closes by itself for everyone and each team, once; what was reopened waits", async () => {
	const done = await closeByItself();
	expect(done).toContain("all 2026-07-01..2026-09-30");
	expect(done.some((one) => one.startsWith("team:South"))).toBe(true);
	// North was closed by its manager.
	expect(done.some((one) => one.startsWith("team:North"))).toBe(false);
	expect(await closeByItself()).toEqual([]);
	const view = await read(await as("helena"), { whose: "all" });
	expect(view.shown).toMatchObject({ by: null, whole: true, correction: 0, note: "" });
	await reopenPeriod(await as(OPS), { id: view.shown?.id ?? "" });
	expect(await closeByItself()).toEqual([]);
	expect((await read(await as("helena"), { whose: "all" })).kept).toEqual([]);
});

test("a quarter closes by itself after five working days, by whatever calendar, and not before", async () => {
	const { organisation } = await as("helena");
	const on = (text: string) => {
		const period = closesByItself(organisation, day(text));
		return period && formatDay(period.end);
	};
	// 1 January 2027 is a holiday of the demo: working days from the 4th on.
	const { calendar } = organisation.company.rules;
	let last = day("2026-12-31");
	for (let n = 0; n < 5; ) if (calendar.isWorking(++last)) n++;
	expect([on("2026-12-31"), on(formatDay(last)), on(formatDay(last + 1)), on(formatDay(calendar.add(last, 1)))]).toEqual([
		"2026-09-30",
		null,
		calendar.isWorking(last + 1) ? "2026-12-31" : null,
		"2026-12-31",
	]);
	const weekly = { pattern: "4-4-5", lastDay: 6, end: "last", month: 1 } as const;
	const rules = { ...organisation.company.rules, fiscal: fiscalOf({ startMonth: 1, weeks: weekly }) };
	const other = { ...organisation, company: { ...organisation.company, rules } };
	expect(formatDay(closesByItself(other, day("2026-11-24"))?.end ?? 0)).toBe("2026-10-31");
});

describe("a close of what takes long", () => {
	afterEach(() => {
		delete process.env.PORCH_LAMP_APART;
	});
	test("is shown with what is there, says how far the rest is, and is then what those who wait are told", async () => {
		const helena = await as("helena");
		const viewpoint = resolveViewpoint(helena, { due: "2026-Q2" });
		process.env.PORCH_LAMP_APART = "10";
		const first = await readClose(helena, viewpoint, undefined, "looks");
		expect(first?.account).toMatchObject({ outlooks: [], differences: [] });
		expect(first?.progress?.steps).toBeGreaterThan(2);
		const whole = await readClose(helena, viewpoint);
		expect(whole?.progress).toBeNull();
		expect(whole?.account.outlooks.length).toBeGreaterThan(2);
		const then = await readClose(helena, viewpoint, undefined, "looks");
		expect(then?.progress).toBeNull();
		expect(JSON.parse(JSON.stringify(then?.account))).toEqual(JSON.parse(JSON.stringify(whole?.account)));
	});
	test("waits for an import that is under way, and tells what it brought", async () => {
		const Q2 = { from: "2026-04-01", to: "2026-06-30" };
		const ruth = await as("ruth");
		const won = (await listDeals(ruth, { status: "won", team: "North", as_of: Q2.to }, {})).items.find(({ closedOn }) => (closedOn ?? "") >= Q2.from);
		const before = await read(ruth, { due: "2026-Q2", whose: "team:North" });
		let finish = () => {};
		const held = new Promise<void>((resolve) => {
			finish = resolve;
		});
		let begun = () => {};
		const running = new Promise<void>((resolve) => {
			begun = resolve;
		});
		const importing = systemWrite(
			async (tx) => {
				await tx.execute(sql`update deal_versions set amount = amount + 100000 where deal_id = ${won?.id}`);
				begun();
				await held;
				return { result: null, touched: "everything", audit: [] };
			},
			null,
			"alone",
		);
		await running;
		const closing = closePeriod(ruth, { whose: "team:North", ...Q2 });
		const early = await Promise.race([closing.then(() => "closed"), new Promise((resolve) => setTimeout(() => resolve("waits"), 700))]);
		expect(early).toBe("waits");
		finish();
		await importing;
		await closing;
		const closed = await read(await as("ruth"), { due: "2026-Q2", whose: "team:North" });
		expect(closed.account.won.amount).toBe(before.account.won.amount + 100_000);
		expect(closed.since).toBeNull();
	});
});
