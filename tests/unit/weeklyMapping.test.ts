import { describe, expect, test } from "vitest";
import { NO_DAY } from "@/core/time/day";
import { guessStage, planFor, suggestStages } from "@/features/import/server/weekly/mapping";
import { Ids, Names } from "@/features/import/server/weekly/people";
import { readRecords } from "@/formats/csv";
import type { Grid } from "@/formats/grid";
import { NEW_PERSON, type WeeklyPlan } from "@/formats/weekly/plan";
import type { Context } from "@/platform/context";
import { makeRules } from "../kit/company";

const rules = makeRules();
const person = (id: string, name: string, email: string | null) => ({
	id,
	name,
	email,
	also: [] as string[],
	role: "rep",
	team: null,
	activeFrom: NO_DAY,
	activeTo: NO_DAY,
});
const people = [person("rae", "Rae Penn", "rae@firm.example"), person("sol", "Sol Quint", null)];
const context = {
	organisation: {
		company: { rules },
		people,
		personIndex: new Map(people.map((one, i) => [one.id, i])),
		accounts: new Map([["a1", { id: "a1", name: "Millrace Bread", also: ["Old Mill"] }]]),
	},
} as unknown as Context;
const table = (...lines: string[]): Grid => ({
	rows: readRecords(new TextEncoder().encode(lines.join("\n"))).rows,
	sheets: [],
	sheet: null,
	open: [],
	written: "UTF-8",
});
const planOf = (grid: Grid, chosen: Partial<WeeklyPlan> | null, before: Partial<WeeklyPlan> | null) => planFor(context, grid, chosen, before, () => []);
const FILE = table(
	"Ref,Deal,Stage,Amount,Close date,Owner",
	'1,Ovens,2. survey,"1,200.50",18/12/2026,Rae',
	"2,Mixers,Closed - lost,5,01/12/2026,Sol",
	"3,Proofer,Odd,5,01/12/2026,Sol",
);

describe("the first stages, made of theirs", () => {
	const shape = (theirs: string[]) => suggestStages(theirs).map((stage) => [stage.name, stage.kind, stage.probability]);
	test("stand in the order of their numbers, or as they come; chances rise", () => {
		expect(shape(["3 - Offer", "1 - Enquiry", "10 - Terms"])).toEqual([
			["1 - Enquiry", "open", 0.25],
			["3 - Offer", "open", 0.5],
			["10 - Terms", "open", 0.75],
			["Won", "won", 1],
			["Lost", "lost", 0],
		]);
		expect(shape(["Offer", "Enquiry"]).map(([name]) => name)).toEqual(["Offer", "Enquiry", "Won", "Lost"]);
	});
	test("those of closed deals come last, once each", () => {
		expect(shape(["Closed lost", "Offer", "Closed won", "Offer"])).toEqual([
			["Offer", "open", 0.5],
			["Closed won", "won", 1],
			["Closed lost", "lost", 0],
		]);
		expect(suggestStages([]).map((stage) => stage.kind)).toEqual(["won", "lost"]);
	});
});

describe("a guess at their stages", () => {
	test("goes by the name, whatever its case or number, and by the words won and lost", () => {
		const guess = (name: string) => guessStage(name, rules.stages);
		expect(["Survey", "SURVEY", "2 - Survey", "Closed won", "closed_lost", "Odd", "wonder"].map(guess)).toEqual([
			"Survey",
			"Survey",
			"Survey",
			"Won",
			"Lost",
			null,
			null,
		]);
	});
	test("is none where two stages end alike", () => {
		const stages = [...rules.stages, { ...rules.stages[6], name: "Gone" }] as typeof rules.stages;
		expect(guessStage("closed lost", stages)).toBeNull();
		expect(guessStage("Gone", stages)).toBe("Gone");
	});
});

describe("a plan for a file", () => {
	test("is guessed where nothing is known", () => {
		const { plan, unsure } = planOf(FILE, null, null);
		expect(plan).toMatchObject({ dates: "dmy", decimal: ".", currency: "EUR", stages: { "2. survey": "Survey", "Closed - lost": "Lost" } });
		expect(plan.columns).toMatchObject({ id: "Ref", name: "Deal", stage: "Stage", amount: "Amount", closeDate: "Close date", owner: "Owner", account: null });
		expect(unsure.dates).toBe(false);
	});
	test("takes what was chosen now before what is remembered, and that before a guess", () => {
		const remembered: WeeklyPlan = {
			...planOf(FILE, null, null).plan,
			currency: "GBP",
			stages: { Odd: "Terms", "2. survey": "Trial" },
		};
		const { plan } = planOf(FILE, { decimal: "," }, remembered);
		expect(plan).toMatchObject({ decimal: ",", currency: "GBP", stages: { Odd: "Terms", "2. survey": "Trial", "Closed - lost": "Lost" } });
		expect(planOf(FILE, { stages: { Odd: "Enquiry" } }, remembered).plan.stages.Odd).toBe("Enquiry");
	});
	test("forgets a stage of ours that is no longer there", () => {
		const remembered = { ...planOf(FILE, null, null).plan, stages: { Odd: "Was once" } };
		expect(planOf(FILE, null, remembered).plan.stages).not.toHaveProperty("Odd");
	});
	test("says when dates could be read either way, until somebody has said so", () => {
		const either = table("Deal,Stage,Amount,Close date,Owner", "A,Survey,1,03/04/2026,Rae");
		expect(planOf(either, null, null).unsure.dates).toBe(true);
		expect(planOf(either, { dates: "mdy" }, null)).toMatchObject({ plan: { dates: "mdy" }, unsure: { dates: false } });
		// What is sure in this file is taken, though something else is remembered.
		expect(planOf(FILE, null, { ...planOf(FILE, null, null).plan, dates: "mdy" }).plan.dates).toBe("dmy");
	});
});

describe("people and accounts by what a sender calls them", () => {
	test("are found by name, address or id, and new ones get an id of their name once", () => {
		const names = new Names(context, {}, null);
		expect(["rae penn", "RAE@firm.example", "sol", " Sol  Quint ", "Penn, Rae"].map((name) => names.person(name))).toEqual(["rae", "rae", "sol", "sol", "rae"]);
		expect(names.newPeople.size).toBe(0);
		expect(["Élan Vít", "élan vít", "Elan Vit", "Sol", "Rae"].map((name) => names.person(name))).toEqual(["elan-vit", "elan-vit", "elan-vit", "sol", "rae"]);
		expect([...names.newPeople]).toEqual([["Élan Vít", "elan-vit"]]);
		expect([names.account("millrace bread"), names.account("Oat Inn")]).toEqual(["a1", "oat-inn"]);
		expect([...names.newAccounts.keys()]).toEqual(["Oat Inn"]);
	});
	test("of two people of one name whoever works here is meant, and where both do it is asked", () => {
		const two = (...more: { activeTo: number }[]) => {
			const all = [...people, ...more.map(({ activeTo }, i) => ({ ...person(`ana${i}`, "Ana Ruiz", null), team: `T${i}`, activeTo }))];
			return { organisation: { ...context.organisation, people: all, personIndex: new Map(all.map((one, i) => [one.id, i])) } } as unknown as Context;
		};
		const left = new Names(two({ activeTo: 100 }, { activeTo: NO_DAY }), {}, 200);
		expect([left.person("Ana Ruiz"), left.open()]).toEqual(["ana1", []]);
		const both = two({ activeTo: NO_DAY }, { activeTo: NO_DAY });
		const asked = new Names(both, {}, 200);
		expect([asked.person("Ana Ruiz"), asked.person("ana ruiz"), asked.newPeople.size]).toEqual([null, null, 0]);
		expect(asked.open()[0]).toMatchObject({ name: "Ana Ruiz", count: 1, who: [{ id: "ana0", label: "Ana Ruiz, T0, ana0" }, { id: "ana1" }] });
		expect(new Names(both, { "Ana Ruiz": "ana0" }, 200).person("Ana Ruiz")).toBe("ana0");
		const fresh = new Names(both, { "Ana Ruiz": NEW_PERSON }, 200);
		expect([fresh.person("Ana Ruiz"), [...fresh.newPeople]]).toEqual(["ana-ruiz", [["Ana Ruiz", "ana-ruiz"]]]);
	});
	test("an id is never one that is taken, and never empty", () => {
		const taken = new Set(["oat-inn", "oat-inn-2", "x"]);
		const ids = new Ids(taken);
		expect(["Oat Inn", "Oat Inn", "  ", "???", "Ä B"].map((name) => ids.from(name))).toEqual(["oat-inn-3", "oat-inn-4", "x-2", "x-3", "a-b"]);
		expect(ids.from("y".repeat(200)).length).toBeLessThanOrEqual(60);
	});
});
