import { mkdtemp, rm, writeFile } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { describe, expect, test } from "vitest";
import { checkBundle } from "@/formats/bundle/check";
import type { Known } from "@/formats/bundle/checkShapes";
import type { RawFiles } from "@/formats/bundle/model";
import { readBundle } from "@/formats/bundle/read";
import { readSettings } from "@/formats/bundle/settings";
import { readFolder } from "@/formats/bundle/unpack";
import { writeBundle } from "@/formats/bundle/write";
import { causesOf } from "@/formats/causes";
import { more, NOTHING_KNOWN, small } from "../kit/bundle";

const nothing: Known = { ...NOTHING_KNOWN, latest: Date.parse("2026-11-25T00:00:00Z") };
const problems = (files: RawFiles, known: Partial<Known> = {}) => {
	const read = readBundle(files, { timeZone: "Europe/Berlin", baseCurrency: "EUR" });
	const all = [...read.problems, ...checkBundle(read.bundle, { ...nothing, ...known }).problems];
	return all.map((p) => `${p.file}:${p.line ?? ""} ${p.column ?? ""} ${p.reason}`);
};
/** A setting without the day that is held, so that what is later is in the future. */
const now = { "settings.json": ['{"timeZone":"Europe/Berlin","baseCurrency":"EUR"}'] };
const ACTIVITIES = "id,deal_id,account_id,contact_ids,kind,direction,state,at,by_id,subject,body";
const TARGETS = "person_id,period_start,period_end,amount,currency";

describe("what single fields can’t show", () => {
	test("a period that ends before it starts, and one of a single day", () => {
		const targets = (start: string, end: string) => problems(small({ "targets.csv": [TARGETS, `rep1,${start},${end},100,EUR`] }));
		expect(targets("2026-10-01", "2026-10-01")).toEqual([]);
		expect(targets("2026-10-02", "2026-10-01")).toEqual(["targets.csv:2 period_end the period ends before it starts"]);
	});
	test("what has happened lies in the past, what is planned need not", () => {
		const activity = (state: string, at: string) => problems(small({ ...now, "activities.csv": [ACTIVITIES, `x1,d1,a1,,call,both,${state},${at},rep1,,`] }));
		expect(activity("done", "2026-11-25T00:00:00Z")).toEqual([]);
		expect(activity("planned", "2026-12-24T09:00:00Z")).toEqual([]);
		expect(activity("done", "2026-11-25T00:00:01Z")).toEqual(["activities.csv:2 at this is in the future: nothing can have happened after today"]);
		const task = (created: string, done: string, state: string) =>
			problems(
				small({ ...now, "tasks.csv": ["id,deal_id,title,assignee_id,due_on,created_at,done_at,state,flags", `t1,d1,Call,rep1,,${created},${done},${state},`] }),
			);
		expect(task("2026-11-20T09:00:00Z", "", "open")).toEqual([]);
		expect(task("2027-11-20T09:00:00Z", "", "open")).toHaveLength(1);
		expect(task("2026-11-20T09:00:00Z", "2027-01-01T09:00:00Z", "done")).toHaveLength(1);
		// The day that a bundle holds counts as today.
		expect(problems(small(more("deal_versions.csv", "d1,2026-11-25T22:00:00Z,Survey,1,EUR,,rep1,,,")))).toEqual([]);
	});
	test("a version can’t be older than its deal, give or take a day", () => {
		const version = (at: string, known = {}) => problems(small(more("deal_versions.csv", `d1,${at},Enquiry,1,EUR,,rep1,,,`)), known);
		expect(version("2026-11-01T10:00:00Z")).toEqual([]);
		expect(version("2026-11-01T08:59:59Z")).toEqual(["deal_versions.csv:6 at this is before its deal was created, at 2026-11-02T09:00:00.000Z"]);
	});
	test("stages: a position that another holds, two at one, none that is open, one without its usual time", () => {
		const stages = (...lines: string[]) => ({ "stages.csv": ["position,name,kind,probability,usual_days", ...lines] });
		const five = ["1,Enquiry,open,0.1,10", "2,Survey,open,0.3,10", "3,Terms,open,0.8,10", "4,Won,won,1,0", "5,Lost,lost,0,0"];
		const held = {
			stagePositions: new Map([
				[1, "Contact"],
				[2, "Survey"],
			]),
			ids: new Map([["stages.csv", new Set(["Contact", "Survey"])]]),
		} as Partial<Known>;
		expect(problems(small(stages(...five)), held).slice(0, 1)).toEqual(["stages.csv:2 position the stage Contact stands at this position already"]);
		// One that moves along makes room.
		expect(problems(small(stages(...five, "6,Contact,open,0.1,5")), held)).toEqual([]);
		expect(problems(small(stages(...five, "5,Gone,lost,0,0")))).toEqual(["stages.csv:7 position the stage Lost has this position too"]);
		expect(problems(small(stages("1,Enquiry,open,0.1,", ...five.slice(1))))[0]).toBe("stages.csv:2 usual_days usual_days is blank, and an open stage needs it");
		expect(problems(small(stages("4,Won,won,1,0")))).toContain("stages.csv:2 kind at least one stage must be open");
	});
	test("a stage is named whatever its case and spaces", () => {
		const files = small(more("deal_versions.csv", "d1,2026-11-12T09:00:00Z, sURVEY ,1,EUR,,rep1,,,"));
		expect(problems(files)).toEqual([]);
		const read = readBundle(files, { timeZone: "Europe/Berlin", baseCurrency: "EUR" });
		const { good } = checkBundle(read.bundle, nothing);
		expect(good.get("deal_versions.csv")?.at(-1)?.fields.stage).toBe("Survey");
	});
	test("people: an address twice in any case, a parent without a team, teams that contradict one another or lie under themselves", () => {
		const person = (line: string, known = {}) => problems(small(more("people.csv", line)), known);
		expect(person("new,New,RAE@firm.example,rep,North,Firm,,")).toEqual(["people.csv:9 email rep1 has this e-mail address already"]);
		expect(person("new,New,new@firm.example,rep,North,Firm,,", { emails: new Map([["new@firm.example", "there"]]) })).toEqual([
			"people.csv:9 email there has this e-mail address already",
		]);
		expect(person("new,New,new@firm.example,rep,North,Firm,,", { emails: new Map([["new@firm.example", "new"]]) })).toEqual([]);
		expect(person("new,New,,rep,,Firm,,")).toEqual(["people.csv:9 parent_team a parent team needs a team"]);
		expect(person("new,New,,rep,North,South,,")).toEqual(["people.csv:9 parent_team another row says that North belongs to Firm"]);
		expect(person("new,New,,rep,Firm,North,,")).toEqual(["people.csv:9 parent_team Firm would be above itself"]);
	});
	test("contacts report to others, not to themselves through them", () => {
		const contacts = (...lines: string[]) => problems(small({ "contacts.csv": ["id,account_id,name,title,email,buying_role,reports_to_id", ...lines] }));
		expect(contacts("c1,a1,A,,,,", "c2,a1,B,,,,c1", "c3,a1,C,,,,c2")).toEqual([]);
		expect(contacts("c1,a1,A,,,,c2", "c2,a1,B,,,,c1")).toEqual([
			"contacts.csv:2 reports_to_id this person would report to themselves",
			"contacts.csv:3 reports_to_id this person would report to themselves",
		]);
	});
	test("a currency needs its rate, but in the list of rates itself", () => {
		const usd = more("deal_versions.csv", "d1,2026-11-12T09:00:00Z,Survey,1,USD,,rep1,,,");
		expect(problems(small(usd))).toEqual(["deal_versions.csv:6 currency there is no rate from USD to EUR; add it to rates.csv"]);
		expect(problems(small(usd), { rateCurrencies: new Set(["USD"]) })).toEqual([]);
		expect(problems(small({ ...usd, "rates.csv": ["currency,date,rate", "USD,2026-01-01,0.9"] }))).toEqual([]);
	});
	test("what rests on a row that has a problem of its own says so, and one cause is told", () => {
		const files = small({
			...more("deals.csv", "d9,a1,New,Web,never,,,"),
			...more("deal_versions.csv", "d9,2026-11-12T09:00:00Z,Survey,1,EUR,,rep1,,,", "d9,2026-11-13T09:00:00Z,Survey,1,EUR,,rep1,,,"),
		});
		const read = readBundle(files, { timeZone: "Europe/Berlin", baseCurrency: "EUR" });
		const all = [...read.problems, ...checkBundle(read.bundle, nothing).problems];
		expect(all.map(({ file, line, restsOn }) => [file, line, restsOn])).toEqual([
			["deals.csv", 5, undefined],
			["deal_versions.csv", 6, "deals.csv 5"],
			["deal_versions.csv", 7, "deals.csv 5"],
		]);
		expect(causesOf(all)).toMatchObject([{ file: "deals.csv" }]);
	});
	test("a file that a bundle doesn’t know is named", () => {
		expect(problems(small({ "deal.csv": ["id", "1"] }))).toEqual(["deal.csv:  the bundle has no such file; check its name or leave it out"]);
	});
});

describe("settings", () => {
	const read = (settings: object) => readSettings(new TextEncoder().encode(JSON.stringify(settings)));
	test("name days of the week by number or by their beginning", () => {
		expect(read({ weekend: ["Sat", 7, "sunday"] })).toMatchObject({ settings: { weekend: [6, 0, 0] }, problems: [] });
		for (const weekend of [["Sa"], ["Freeday"], [8], [0, 1, 2, 3, 4, 5, 6]]) expect(read({ weekend }).problems).toHaveLength(1);
	});
	test("have bands that grow", () => {
		expect(read({ contactBands: [14, 42, 91] }).problems).toEqual([]);
		for (const contactBands of [
			[14, 14, 91],
			[42, 14, 91],
			[14, 42],
			[0, 1, 2],
		])
			expect(read({ contactBands }).problems).toHaveLength(1);
	});
	test("know time zones, currencies and days", () => {
		expect(read({ timeZone: "Europe/Berlin", baseCurrency: "CHF", today: null, fiscalYearStartMonth: 12 }).problems).toEqual([]);
		for (const wrong of [{ timeZone: "Mars" }, { baseCurrency: "ABC" }, { today: "2026-02-30" }, { fiscalYearStartMonth: 13 }])
			expect(read(wrong).problems).toHaveLength(1);
	});
});

describe("a bundle in a folder", () => {
	test("is read file by file; others are left alone, and none at all is a fault", async () => {
		const folder = await mkdtemp(join(tmpdir(), "bundle-"));
		try {
			await expect(readFolder(folder)).rejects.toThrow("the folder holds no CSV files");
			await writeFile(join(folder, "notes.txt"), "x");
			await expect(readFolder(folder)).rejects.toThrow("the folder holds no CSV files");
			await writeFile(join(folder, "deals.csv"), "id\n1\n");
			await writeFile(join(folder, "settings.json"), "{}");
			expect([...(await readFolder(folder)).keys()]).toEqual(["deals.csv", "settings.json"]);
		} finally {
			await rm(folder, { recursive: true });
		}
	});
});

describe("a bundle that is written", () => {
	const deal = {
		id: "d1",
		account_id: null,
		name: "=Ovens",
		source: null,
		created_at: "2026-11-02T09:00:00Z",
		competitor: null,
		outcome_reason: null,
		tags: [],
	};
	const task = {
		id: "t1",
		deal_id: "d1",
		title: "Call",
		assignee_id: null,
		due_on: null,
		created_at: "2026-11-02T09:00:00Z",
		done_at: null,
		state: "open",
		flags: [],
	};
	const written = (rows: Parameters<typeof writeBundle>[0], file: string) => new TextDecoder().decode(writeBundle(rows, {}, "EUR").get(file));
	test("has columns beyond the usual ones only where a row says more than nothing there", () => {
		const head = (fields: object) => written(new Map([["tasks.csv", [{ fields: { ...task, ...fields } as never }]]]), "tasks.csv").split("\n")[0];
		const usual = "id,deal_id,title,assignee_id,due_on,created_at,done_at,state,flags";
		expect(head({})).toBe(usual);
		expect(head({ importance: "usual", note: null })).toBe(usual);
		expect(head({ importance: "high" })).toBe(`${usual},importance`);
	});
	test("keeps what was aside, holds what would run, and has the required files always", () => {
		const text = written(new Map([["deals.csv", [{ fields: deal, extras: { "=more": "-1" } }, { fields: { ...deal, id: "d2" } }]]]), "deals.csv");
		expect(text).toBe(
			"id,account_id,name,source,created_at,competitor,outcome_reason,tags,'=more\nd1,,'=Ovens,,2026-11-02T09:00:00Z,,,,'-1\nd2,,'=Ovens,,2026-11-02T09:00:00Z,,,,\n",
		);
		expect([...writeBundle(new Map(), {}, "EUR").keys()]).toEqual([
			"people.csv",
			"accounts.csv",
			"stages.csv",
			"deals.csv",
			"deal_versions.csv",
			"settings.json",
		]);
	});
});
