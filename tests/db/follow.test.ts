import { sql } from "drizzle-orm";
import { afterAll, beforeAll, beforeEach, describe, expect, test } from "vitest";
import { idsOf } from "@/../tests/kit/plain";
import { connection } from "@/data/db";
import { currentOrganisation } from "@/data/organisation/follow";
import { loadOrganisation } from "@/data/organisation/load";
import { readReferenceData } from "@/data/organisation/readReferenceData";
import { restoreSnapshot, saveSnapshot } from "@/data/organisation/snapshot";
import { recordChange } from "@/data/store/changeLog";
import { takeWeekly } from "@/features/import/server/weekly/take";
import { more, small } from "../kit/bundle";
import { as, freshDatabase, importAs, refill } from "../kit/database";
import { spelt } from "../kit/plain";

let database: Awaited<ReturnType<typeof freshDatabase>>;
const TASKS = ["id,deal_id,title,assignee_id,due_on,created_at,done_at,state,flags", "t1,d1,Call them,rep1,2026-11-27,2026-11-20T09:00:00Z,,open,"];
beforeAll(async () => {
	database = await freshDatabase("follow");
});
beforeEach(() => refill(small({ "tasks.csv": TASKS })));
afterAll(() => database.drop());

const now = () => currentOrganisation(connection().db);
const anew = async () => spelt(await loadOrganisation(connection().db, (await now()).revision));
/** What a process has in memory of a deal, the same object as long as nobody read it again. */
const keptOf = async (id: string) => {
	const { company, dealIndex } = await now();
	return company.deals[dealIndex.get(id) as number]?.activities;
};
const imported = async (files: Record<string, string[]>) => expect(await importAs(small(files))).toMatchObject({ state: "done", problemCount: 0 });

describe("an import is followed", () => {
	test("deals come between others, people before others, in a currency nobody had; what isn’t concerned isn’t read again", async () => {
		const before = await keptOf("d3");
		await imported({
			...more("people.csv", "aaron,Aaron Oak,aaron@firm.example,rep,North,Firm,,"),
			...more("deals.csv", "d1b,a1,Between,Web,2026-11-03T09:00:00Z,,,", "a0,a2,First,Web,2026-11-03T09:00:00Z,,,", "z,,Last,Web,2026-11-03T09:00:00Z,,,"),
			...more(
				"deal_versions.csv",
				"d1b,2026-11-03T09:00:00Z,Enquiry,5,CHF,,aaron,,Call,2026-12-01",
				"a0,2026-11-03T09:00:00Z,Survey,6,EUR,,rep2,commit,,",
				"z,2026-11-03T09:00:00Z,Survey,7,CHF,,gone,commit,,",
			),
			"rates.csv": ["currency,date,rate", "CHF,2026-01-01,1.05"],
		});
		expect(idsOf(await now())).toEqual(["a0", "d1", "d1b", "d2", "d3", "z"]);
		expect(spelt(await now())).toEqual(await anew());
		expect(await keptOf("d3")).toBe(before);
	});

	test("changed versions, answers’ people and names of accounts are in, and a second time nothing is touched", async () => {
		const files = {
			"accounts.csv": ["id,name,kind,industry,territory,owner_id", "a1,,customer,Bakery,Coast,rep1", "a2,Oat Inn & Sons,prospect,Hotel,Alps,rep2"],
			"contacts.csv": ["id,account_id,name,title,email,buying_role,reports_to_id", "c1,a1,Ada Moss,Head of bakery,,decision_maker,"],
			"deal_contacts.csv": ["deal_id,contact_id", "d1,c1"],
		};
		await imported({ ...files, ...more("deal_versions.csv", "d2,2026-11-20T09:00:00Z,Survey,900,EUR,2026-12-20,rep1,commit,Send it,2026-11-30") });
		expect(spelt(await now())).toEqual(await anew());
		const { revision } = await now();
		await imported({ ...files, ...more("deal_versions.csv", "d2,2026-11-20T09:00:00Z,Survey,900,EUR,2026-12-20,rep1,commit,Send it,2026-11-30") });
		expect((await now()).revision).toBe(revision);
	});

	test("stages in another order are read anew, and the same comes of it", async () => {
		await now();
		await imported({
			"stages.csv": [
				"position,name,kind,probability,usual_days",
				"1,Survey,open,0.1,10",
				"2,Enquiry,open,0.3,10",
				"3,Terms,open,0.8,10",
				"4,Won,won,1,0",
				"5,Lost,lost,0,0",
			],
		});
		expect(spelt(await now())).toEqual(await anew());
	});
});

describe("a weekly file is followed", () => {
	const file = (name: string, ...lines: string[]) => ({
		name,
		bytes: new TextEncoder().encode(["Ref,Opportunity,Company,Phase,Value,Closing date,Owner", ...lines].join("\n")),
		day: null,
		plan: null,
	});
	test("its deals come, and go with the file that takes its place", async () => {
		const before = await keptOf("d3");
		const lines = ["b7,Deck ovens,Millrace Bread,Survey,1200.50,2026-12-18,Rae Penn", "d2,Mixers,Oat Inn,Survey,500,2026-12-10,sol@firm.example"];
		await takeWeekly(await as("ops"), {
			sent: file("deals 2026-11-09.csv", ...lines, "e9,Proofer,New Rolls,Enquiry,80,2026-12-22,Una Fern"),
			confirmed: ["missing", "replace"],
		});
		expect(idsOf(await now())).toEqual(["b7", "d1", "d2", "d3", "e9"]);
		expect(spelt(await now())).toEqual(await anew());
		await takeWeekly(await as("ops"), { sent: file("all 2026-11-09.csv", ...lines), confirmed: ["missing", "replace"] });
		expect(idsOf(await now())).toEqual(["b7", "d1", "d2", "d3"]);
		expect(spelt(await now())).toEqual(await anew());
		expect(await keptOf("d3")).toBe(before);
	});
});

test("a snapshot from before new people and currencies is taken, and is what the rows would give", async () => {
	const { db } = connection();
	expect(await saveSnapshot(db, await now())).toBe(true);
	await db.execute(sql`insert into people (id, name, role) values ('aaron', 'Aaron Oak', 'rep')`);
	await db.execute(sql`update accounts set name = '' where id = 'a1'`);
	await db.transaction((tx) => recordChange(tx, "settings"));
	const unpacked = await restoreSnapshot(db, await readReferenceData(db));
	expect(unpacked && spelt({ ...unpacked, revision: 0 })).toEqual(spelt(await loadOrganisation(db, 0)));
});

describe("what isn’t about deals is followed", () => {
	test("settings that don’t touch rules, people and accounts leave those as they are, with all that was worked out by them", async () => {
		const before = await now();
		await connection().pool.query("update organisation set commit_goal = 71");
		await connection().db.transaction((tx) => recordChange(tx, "settings"));
		const goal = await now();
		expect(goal.people).toBe(before.people);
		expect(goal.accounts).toBe(before.accounts);
		expect(goal.commitGoal).toBe(71);
		await connection().pool.query("insert into teams (name) values ('New')");
		await connection().db.transaction((tx) => recordChange(tx, "settings"));
		const team = await now();
		expect(team.company.rules).toBe(goal.company.rules);
		expect(team.company.blocks).toEqual(goal.company.blocks);
		expect([...team.company.blocks].every((block, i) => block === goal.company.blocks[i])).toBe(true);
		await connection().pool.query("update stages set usual_days = 99 where name = 'Terms'");
		await connection().db.transaction((tx) => recordChange(tx, "settings"));
		expect((await now()).company.rules).not.toBe(goal.company.rules);
		expect(spelt(await now())).toEqual(await anew());
	});
	test("targets and tasks about no deal are read by themselves", async () => {
		const before = await now();
		await connection().pool.query(
			"insert into targets (person_id, period_start, period_end, amount, currency) values ('rep1', '2026-10-01', '2026-12-31', 500, 'EUR') on conflict do nothing",
		);
		await connection().db.transaction((tx) => recordChange(tx, "targets"));
		await connection().pool.query("insert into tasks (id, title, assignee_id, state, created_at) values ('loose1', 'Tidy', 'rep1', 'open', now())");
		await connection().db.transaction((tx) => recordChange(tx, "loose tasks"));
		const after = await now();
		expect(after.company).toBe(before.company);
		expect(after.targets.length).toBe(before.targets.length + 1);
		expect(after.looseTasks.map(({ id }) => id)).toContain("loose1");
		expect(spelt(after)).toEqual(await anew());
	});
});
