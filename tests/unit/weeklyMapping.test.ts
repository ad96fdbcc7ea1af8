import { describe, expect, test } from "vitest";
import { guessStage, planFor, suggestStages } from "@/features/import/server/weekly/mapping";
import { idFrom, Names } from "@/features/import/server/weekly/people";
import { readCsv } from "@/formats/csv";
import type { WeeklyPlan } from "@/formats/weekly/read";
import type { Context } from "@/platform/context";
import { makeRules } from "../kit/company";

const rules = makeRules();
const person = (id: string, name: string, email: string | null) => ({ id, name, email, role: "rep", team: null, activeFrom: 0, activeTo: 0 });
const people = [person("rae", "Rae Penn", "rae@firm.example"), person("sol", "Sol Quint", null)];
const context = {
	organisation: {
		company: { rules },
		people,
		personIndex: new Map(people.map((one, i) => [one.id, i])),
		accounts: new Map([["a1", { id: "a1", name: "Millrace Bread" }]]),
	},
} as unknown as Context;
const table = (...lines: string[]) => readCsv(new TextEncoder().encode(lines.join("\n")));
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
		const { plan, unsure } = planFor(context, FILE, null, null);
		expect(plan).toMatchObject({ dates: "dmy", decimal: ".", currency: "EUR", stages: { "2. survey": "Survey", "Closed - lost": "Lost" } });
		expect(plan.columns).toMatchObject({ id: "Ref", name: "Deal", stage: "Stage", amount: "Amount", closeDate: "Close date", owner: "Owner", account: null });
		expect(unsure.dates).toBe(false);
	});
	test("takes what was chosen now before what is remembered, and that before a guess", () => {
		const remembered: WeeklyPlan = {
			...planFor(context, FILE, null, null).plan,
			decimal: ",",
			currency: "GBP",
			stages: { Odd: "Terms", "2. survey": "Trial" },
		};
		const { plan } = planFor(context, FILE, { decimal: "." }, remembered);
		expect(plan).toMatchObject({ decimal: ".", currency: "GBP", stages: { Odd: "Terms", "2. survey": "Trial", "Closed - lost": "Lost" } });
		expect(planFor(context, FILE, { stages: { Odd: "Enquiry" } }, remembered).plan.stages.Odd).toBe("Enquiry");
	});
	test("forgets a stage of ours that is no longer there", () => {
		const remembered = { ...planFor(context, FILE, null, null).plan, stages: { Odd: "Was once" } };
		expect(planFor(context, FILE, null, remembered).plan.stages).not.toHaveProperty("Odd");
	});
	test("says when dates could be read either way, until somebody has said so", () => {
		const either = table("Deal,Stage,Amount,Close date,Owner", "A,Survey,1,03/04/2026,Rae");
		expect(planFor(context, either, null, null).unsure.dates).toBe(true);
		expect(planFor(context, either, { dates: "mdy" }, null)).toMatchObject({ plan: { dates: "mdy" }, unsure: { dates: false } });
		// What is sure in this file is taken, though something else is remembered.
		expect(planFor(context, FILE, null, { ...planFor(context, FILE, null, null).plan, dates: "mdy" }).plan.dates).toBe("dmy");
	});
});

describe("people and accounts by what a sender calls them", () => {
	test("are found by name, address or id, and new ones get an id of their name once", () => {
		const names = new Names(context);
		expect(["rae penn", "RAE@firm.example", "sol", " Sol Quint "].map((name) => names.person(name))).toEqual(["rae", "rae", "sol", "sol"]);
		expect(names.newPeople.size).toBe(0);
		expect(["Élan Vít", "élan vít", "Sol", "Rae"].map((name) => names.person(name))).toEqual(["elan-vit", "elan-vit", "sol", "rae"]);
		expect([...names.newPeople]).toEqual([["Élan Vít", "elan-vit"]]);
		expect([names.account("millrace bread"), names.account("Oat Inn")]).toEqual(["a1", "oat-inn"]);
		expect([...names.newAccounts.keys()]).toEqual(["Oat Inn"]);
	});
	test("an id is never one that is taken, and never empty", () => {
		const taken = new Set(["oat-inn", "oat-inn-2", "x"]);
		expect([idFrom("Oat Inn", taken), idFrom("  ", taken), idFrom("???", new Set()), idFrom("Ä B", new Set())]).toEqual(["oat-inn-3", "x-2", "x", "a-b"]);
		expect(idFrom("y".repeat(200), new Set()).length).toBeLessThanOrEqual(60);
	});
});
