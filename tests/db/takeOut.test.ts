import { sql } from "drizzle-orm";
import { afterAll, beforeAll, beforeEach, describe, expect, test } from "vitest";
import { connection } from "@/data/db";
import { storedBundle } from "@/features/import/server/exportBundle";
import { readImport } from "@/features/import/server/importBundle";
import { previewTakeOutBundle, takeOutBundle } from "@/features/import/server/takeOutBundle";
import { writeNote } from "@/features/sheet/server/writeNote";
import { giveTasks } from "@/features/tasks/server/giveTasks";
import { bundleOf, SMALL, small } from "../kit/bundle";
import { as, freshDatabase, importAs, refill } from "../kit/database";
import { allDeals } from "../kit/deals";
import { faultOf } from "../kit/fault";
import { inspected } from "../kit/inspection";

let database: Awaited<ReturnType<typeof freshDatabase>>;
beforeAll(async () => {
	database = await freshDatabase("takeout");
});
afterAll(() => database.drop());
beforeEach(() => refill(small()));

/** Every row of every table, but for what tells of imports, writes and tries themselves. */
async function everything(): Promise<Record<string, string[]>> {
	const telling = ["audit", "change_log", "revision", "imports", "import_undo", "sessions", "reach_state", "sign_in_attempts", "once_keys"];
	const { rows } = await connection().db.execute(sql`select tablename from pg_tables where schemaname = 'public' order by 1`);
	const found: Record<string, string[]> = {};
	for (const { tablename } of rows as { tablename: string }[]) {
		if (telling.includes(tablename)) continue;
		const all = await connection().db.execute(sql`select to_jsonb(t)::text as row from ${sql.identifier(tablename)} t`);
		found[tablename] = (all.rows as { row: string }[]).map(({ row }) => row).sort();
	}
	return found;
}

/** SMALL with a row more, a row less, and a row changed in most files. */
const later = () =>
	small({
		"people.csv": [
			...(SMALL["people.csv"] as string[]).map((line) => line.replace("rep2,Sol Quint,sol@firm.example,rep,South", "rep2,Sol Quint,sol@firm.example,rep,East")),
			"rep3,Ivo Lark,ivo@firm.example,rep,East,Firm,,",
		],
		"accounts.csv": [
			...(SMALL["accounts.csv"] as string[]).map((line) => line.replace("Oat Inn", "Oat Inn and Mill")),
			"a3,Rye House,prospect,Hotel,Alps,rep3",
		],
		"stages.csv": [
			"position,name,kind,probability,usual_days",
			"1,Survey,open,0.3,10",
			"2,Enquiry,open,0.1,12",
			"3,Terms,open,0.8,10",
			"4,Won,won,1,0",
			"5,Lost,lost,0,0",
		],
		"deals.csv": [
			...(SMALL["deals.csv"] as string[]).map((line) => line.replace("Mixers,Web", "Mixers,Fair")),
			"d4,a3,Rye mill,Web,2026-11-05T09:00:00Z,,,new",
		],
		"deal_versions.csv": [
			...(SMALL["deal_versions.csv"] as string[]),
			"d2,2026-11-20T09:00:00Z,Survey,650,EUR,2026-12-10,rep2,pipeline,,",
			"d4,2026-11-05T09:00:00Z,Enquiry,90,EUR,2026-12-10,rep3,pipeline,,",
		],
		"contacts.csv": ["id,account_id,name,title,buying_role,email", "c1,a1,Pia Holm,Buyer,decision_maker,", "c4,a3,Ned Ash,Owner,decision_maker,"],
		"deal_contacts.csv": ["deal_id,contact_id", "d1,c1", "d4,c4"],
		"holidays.csv": ["date,name", "2026-12-25,Christmas"],
		"settings.json": ['{"timeZone":"Europe/Zurich","baseCurrency":"EUR","fiscalYearStartMonth":4,"weekend":[0],"today":"2026-11-24"}'],
	});

describe("an import that is taken out again", () => {
	test("leaves every row of every table as it was", async () => {
		const before = await everything();
		const report = await importAs(later());
		expect(report).toMatchObject({ state: "done", problems: [] });
		expect(await everything()).not.toEqual(before);
		expect((await allDeals(await as("ops"), {})).map(({ id }) => id)).toContain("d4");
		const seen = await previewTakeOutBundle(await as("ops"), { id: report.id });
		const rows = Object.fromEntries(seen.rows.map(({ what, added, changed }) => [what, [added, changed]]));
		expect(rows).toMatchObject({ deals: [1, 1], accounts: [1, 1], people: [1, 1], settings: [0, 1], holidays: [1, 0] });
		// A version of d2 is new, and ends the one before it.
		expect(rows["versions of deals"]).toEqual([2, 1]);
		await takeOutBundle(await as("ops"), { id: report.id });
		expect(await everything()).toEqual(before);
		expect((await allDeals(await as("ops"), {})).map(({ id }) => id).sort()).toEqual(["d1", "d2", "d3"]);
		expect((await readImport(await as("ops"), report.id)).state).toBe("undone");
		expect(await faultOf(async () => takeOutBundle(await as("ops"), { id: report.id }))).toMatchObject({ status: 422 });
	});
	test("can come again, and is then the same as at first", async () => {
		const first = await importAs(later());
		const full = await storedBundle();
		await takeOutBundle(await as("ops"), { id: first.id });
		await importAs(later());
		expect(await storedBundle()).toEqual(full);
	});
	test("can still be taken out after the same came again, which changed nothing", async () => {
		const before = await everything();
		const first = await importAs(later());
		await importAs(later());
		await takeOutBundle(await as("ops"), { id: first.id });
		expect(await everything()).toEqual(before);
	});
	test("stays where something later rests on it, and nothing is half undone", async () => {
		const report = await importAs(later());
		await giveTasks(await as("boss"), { dealIds: ["d4"], title: "Call" });
		const before = await everything();
		expect(await faultOf(async () => takeOutBundle(await as("ops"), { id: report.id }))).toMatchObject({
			status: 409,
			detail: expect.stringContaining("came later"),
		});
		expect(await everything()).toEqual(before);
		await writeNote(await as("boss"), { dealId: "d1", body: "A word" });
		await connection().db.execute(sql`update accounts set name = 'Rye Houses' where id = 'a3'`);
		await connection().db.execute(sql`delete from tasks`);
		expect(await faultOf(async () => takeOutBundle(await as("ops"), { id: report.id }))).toMatchObject({
			detail: expect.stringContaining("accounts have been changed since"),
		});
	});
	test("is the newest alone; with all kinds of rows too", async () => {
		const first = await importAs(later());
		const before = await everything();
		const whole = await importAs(bundleOf({}));
		expect(whole.state).toBe("refused");
		const second = await importAs(inspected());
		if (second.state === "done") {
			expect(await faultOf(async () => takeOutBundle(await as("ops"), { id: first.id }))).toMatchObject({ status: 422 });
			await takeOutBundle(await as("ops"), { id: second.id });
			expect(await everything()).toEqual(before);
		} else throw new Error(JSON.stringify(second.problems.slice(0, 3)));
	});
	test("keeps nothing of what is written by hand", async () => {
		await connection().db.execute(sql`truncate import_undo`);
		await giveTasks(await as("boss"), { dealIds: ["d1"], title: "Call" });
		const { rows } = await connection().db.execute(sql`select count(*)::int as n from import_undo`);
		expect(rows).toEqual([{ n: 0 }]);
	});
});

test("what keeps rows for taking out is never planned as a loop within a loop: its plan was made when few rows were written", async () => {
	const { rows } = await connection().db.execute(sql`select proconfig from pg_proc where proname = 'keep_for_undo'`);
	expect(rows).toEqual([{ proconfig: ["enable_nestloop=off"] }]);
});
