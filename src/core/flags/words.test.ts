import { describe, expect, test } from "vitest";
import { companyAfter, inBlocks } from "@/../tests/kit/company";
import { day, makeCompany, type TestDeal, type TestRules } from "../../../tests/kit/company";
import { BLOCK_SIZE } from "../history/columns";
import { inspect } from "../inspect";
import { normsOn } from "../norms";
import { surveyOn } from "../survey";
import { formatDay } from "../time/day";
import { RULES } from "./list";

/** The flags of a deal on a day, by code: label, reason, what clears it, its remedy. */
const told = (deal: TestDeal, iso: string, rules: TestRules = {}, others: TestDeal[] = []) => {
	const company = makeCompany([deal, ...others], rules);
	const seen = inspect(company, 0, normsOn(company, day(iso)));
	return Object.fromEntries((seen?.flags ?? []).map((one) => [one.code, [one.label, one.reason, one.clears, one.remedy]]));
};
const severity = (code: string, deal: TestDeal, iso: string, rules: TestRules = {}, others: TestDeal[] = []) => {
	const company = makeCompany([deal, ...others], rules);
	return inspect(company, 0, normsOn(company, day(iso)))?.flags.find((one) => one.code === code)?.severity ?? null;
};
const SEEN = "2026-03-24";
const old = { at: "2026-01-05", stage: "Trial" };

describe("what each flag says", () => {
	test("of dates and time", () => {
		expect(told({ versions: [{ ...old, close: "2026-03-18" }] }, SEEN).overdue).toEqual([
			"Overdue 4 d",
			"close date was 18 Mar, 4 working days ago (6 calendar days)",
			expect.stringMatching(/./),
			expect.stringMatching(/./),
		]);
		const moved: TestDeal = {
			versions: [
				{ ...old, close: "2026-03-20" },
				{ at: "2026-02-02", close: "2026-04-10" },
				{ at: "2026-03-02", close: "2026-07-10" },
			],
		};
		expect(told(moved, SEEN).slipped?.[0]).toBe("Slipped ×2");
		const bigger: TestDeal[] = [2000, 3000, 4000, 5000].map((amount) => ({ versions: [{ at: "2026-03-02", amount }] }));
		const idle = (version: Partial<TestDeal["versions"][number]>, others = bigger) =>
			told({ versions: [{ ...old, ...version }] }, SEEN, {}, others)["no-next-step"]?.[1];
		expect(idle({ next: "2026-03-10" })).toBe("the last step was due on 10 Mar and nothing is planned after it");
		expect(idle({})).toBe("nothing is planned");
		expect(idle({ amount: 9000 })).toBe("nothing is planned, on one of the largest deals");
		expect(idle({ next: "2026-03-10" }, [])).toBe("the last step was due on 10 Mar and nothing is planned after it, on one of the largest deals");
		expect(told({ versions: [{ ...old, at: "2026-01-05" }] }, "2026-07-21")["aging-deal"]?.[1]).toContain("100 is twice the configured path");
		expect(told({ versions: [old] }, SEEN)["aging-stage"]?.[1]).toContain("as configured");
		expect(told({ versions: [{ at: "2026-03-02", close: "2026-03-27" }] }, SEEN)["short-runway"]).toEqual([
			"Short runway",
			expect.stringMatching(/^3 working days to the close date on 27 Mar, and from Enquiry only .+ needed \d+(\.\d)? or fewer \(as configured\)$/),
			"a later close date or a step to a later stage",
			"Move the close date or shorten the path to it",
		]);
		// As many days left as are needed is enough.
		const needed = Number(/needed ([\d.]+)/.exec(told({ versions: [{ at: "2026-03-02", close: "2026-03-27" }] }, SEEN)["short-runway"]?.[1] ?? "")?.[1]);
		const { calendar } = makeCompany([]).rules;
		const at = (left: number) => severity("short-runway", { versions: [{ at: "2026-03-02", close: formatDay(calendar.add(day(SEEN), left)) }] }, SEEN);
		expect([at(Math.ceil(needed) - 1), at(Math.ceil(needed))]).toEqual([2, null]);
	});
	test("of what is blank, each alone and all together", () => {
		const blank = (deal: Partial<TestDeal>, version: Partial<TestDeal["versions"][number]> = {}) =>
			told({ ...deal, versions: [{ ...old, close: "2026-06-10", ...version }] }, SEEN)["blank-fields"];
		expect(blank({})).toBeUndefined();
		expect(blank({}, { amount: null })).toEqual(["Blank: amount", "there is no amount", "the blanks filled in", "Fill in the amount"]);
		expect(blank({}, { close: null })?.[0]).toBe("Blank: close date");
		const all = blank({ account: false, contact: false }, { amount: null, close: null });
		expect(all).toEqual([
			"Blank: amount, close date, account name, contact",
			"there is no amount, no close date, no account name, no contact",
			"the blanks filled in",
			"Fill in the amount, the close date, the account name, the contact",
		]);
		expect(blank({ account: false })?.[0]).toBe("Blank: account name");
		expect(blank({ contact: false })?.[0]).toBe("Blank: contact");
	});
	test("of who is spoken to and who signs", () => {
		const late = { at: "2026-01-05", stage: "Terms", close: "2026-06-10" };
		expect(told({ versions: [late], contact: false }, SEEN)["lone-contact"]).toEqual([
			"No contact",
			"nobody of theirs was in touch in the last 60 days, in Terms",
			"contact with a second person at the buyer",
			"Meet a second person at the buyer",
		]);
		const met = (...met: [string, string][]): TestDeal => ({
			versions: [late],
			activities: met.map(([when, who]) => [when, "both", "done", "call", [who]]),
		});
		expect(told(met(["2026-03-10", "ana"]), SEEN)["lone-contact"]?.slice(0, 2)).toEqual([
			"One contact",
			"only one person of theirs was in touch in the last 60 days, in Terms",
		]);
		expect(told(met(["2026-03-10", "ana"], ["2026-03-11", "ana"]), SEEN)["lone-contact"]?.[0]).toBe("One contact");
		expect(told(met(["2026-03-10", "ana"], ["2026-03-11", "bo"]), SEEN)["lone-contact"]).toBeUndefined();
		// Sixty days back from the 24th of March: the 24th of January is the first that counts.
		expect(told(met(["2026-03-10", "ana"], ["2026-01-24", "bo"]), SEEN)["lone-contact"]).toBeUndefined();
		expect(told(met(["2026-03-10", "ana"], ["2026-01-23", "bo"]), SEEN)["lone-contact"]?.[0]).toBe("One contact");
		expect(told(met(["2026-03-10", "ana"], ["2026-03-25", "bo"]), SEEN)["lone-contact"]?.[0]).toBe("One contact");
		expect(told({ versions: [late] }, SEEN)["no-signatory"]).toEqual([
			"No signatory",
			"the deal is in Terms, and none of its contacts is known to decide",
			"a signatory among the deal’s contacts",
			"Find out who signs, and meet them",
		]);
		expect(told({ versions: [late], contact: false }, SEEN)["no-signatory"]?.[1]).toBe("the deal is in Terms, and nobody is known to decide");
		expect(told({ versions: [late], signatory: true }, SEEN)["no-signatory"]).toBeUndefined();
		expect(told({ versions: [{ ...late, stage: "Survey" }] }, SEEN)["no-signatory"]).toBeUndefined();
	});
	test("of the talk: who waits for whom, and what lies in the log", () => {
		const said = (direction: "in" | "out"): TestDeal => ({ versions: [old], activities: [["2026-03-10", direction]] });
		expect(told(said("out"), SEEN)["gone-quiet"]).toEqual([
			"Quiet 10 d",
			"we wrote or called on 10 Mar, 10 working days ago, and they haven’t answered since",
			"contact from them",
			"Try another person or another channel",
		]);
		expect(told(said("in"), SEEN)["reply-owed"]).toEqual([
			"Reply owed 10 d",
			"they wrote or called on 10 Mar, 10 working days ago, and nobody answered",
			"an answer to them",
			"Answer what they asked",
		]);
		expect([severity("gone-quiet", said("out"), "2026-03-27"), severity("gone-quiet", said("out"), "2026-03-30")]).toEqual([1, 2]);
		const visited: TestDeal = { versions: [{ at: "2026-03-02", stage: "Survey" }], activities: [["2026-03-10", "both", "done", "demo"]] };
		expect(told(visited, SEEN, { kindPositions: { demo: 3 } })["stage-behind"]).toEqual([
			"Stage behind the log",
			"a demo took place on 10 Mar, which belongs to Trial, and the deal is still in Survey",
			"the stage updated",
			"Update the stage",
		]);
		expect(told(visited, SEEN, { kindPositions: { demo: 9 } })["stage-behind"]?.[1]).toContain("belongs to stage 9");
		expect(told(visited, SEEN, { kindPositions: { demo: 2 } })["stage-behind"]).toBeUndefined();
		expect(told(visited, SEEN)["stage-behind"]).toBeUndefined();
		const back: TestDeal = {
			versions: [
				{ at: "2026-02-02", stage: "Proposal" },
				{ at: "2026-03-02", stage: "Survey" },
			],
		};
		expect(told(back, SEEN)["stepped-back"]).toEqual([
			"Stepped back",
			"it went back from Proposal to Survey on 2 Mar",
			"30 days passed without another step back",
			"Find out what changed at the buyer",
		]);
		expect([told(back, "2026-03-31")["stepped-back"] !== undefined, told(back, "2026-04-01")["stepped-back"] !== undefined]).toEqual([true, false]);
	});
	test("of quotes, from some days before they lapse on", () => {
		const quoted = (...quotes: NonNullable<TestDeal["quotes"]>): TestDeal => ({ versions: [{ ...old, stage: "Proposal" }], quotes });
		const lapsing = (iso: string, ...quotes: NonNullable<TestDeal["quotes"]>) => told(quoted(...quotes), iso)["quote-lapsing"];
		const quote: [string, string] = ["2026-03-02", "2026-03-24"];
		expect(lapsing("2026-03-16", quote)).toBeUndefined();
		expect(lapsing("2026-03-17", quote)?.slice(0, 2)).toEqual([
			"Quote lapses in 5 d",
			expect.stringMatching(/ of 2 Mar has no answer and lapses on 24 Mar, in 5 working days$/),
		]);
		expect(lapsing("2026-03-24", quote)?.[0]).toBe("Quote lapses today");
		expect(lapsing("2026-03-26", quote)?.slice(0, 2)).toEqual([
			"Quote lapsed",
			expect.stringMatching(/has no answer and lapsed on 24 Mar, 2 working days ago$/),
		]);
		expect(lapsing("2026-03-26", quote)?.slice(2)).toEqual(["an answer to the quote, or a new one", "Renew the quote or get the answer"]);
		expect(lapsing("2026-03-26", ["2026-03-02", "2026-03-24", "2026-03-25"])).toBeUndefined();
		expect(lapsing("2026-03-24", ["2026-03-02", "2026-03-24", "2026-03-25"])?.[0]).toBe("Quote lapses today");
		// The newest counts, in whatever order they come; one that is still to be sent doesn't.
		expect(lapsing("2026-03-26", quote, ["2026-03-20", "2026-05-24"])).toBeUndefined();
		expect(lapsing("2026-03-26", ["2026-03-20", "2026-05-24"], quote)).toBeUndefined();
		expect(lapsing("2026-03-26", quote, ["2026-03-27", "2026-05-24"])?.[0]).toBe("Quote lapsed");
		expect(lapsing("2026-03-26")).toBeUndefined();
	});
	test("of the amount, the owner and the promise", () => {
		const cut: TestDeal = {
			versions: [
				{ ...old, amount: 1000 },
				{ at: "2026-03-02", amount: 800 },
			],
		};
		expect(told(cut, SEEN)["amount-cut"]).toEqual([
			"Amount cut 20%",
			expect.stringMatching(/^€800, down from €1.000 on \d+ \w+, within 60 days$/),
			"the amount back up, or 60 days gone by since the cut",
			"Check what we got for the lower amount",
		]);
		const by = (amount: number) => severity("amount-cut", { versions: [cut.versions[0] as never, { at: "2026-03-02", amount }] }, SEEN);
		expect([by(851), by(850), by(701), by(700)]).toEqual([null, 1, 1, 2]);
		expect(told({ versions: [{ ...old, owner: null }] }, SEEN).unowned).toEqual([
			"No owner",
			"nobody owns it",
			"a current employee as owner",
			"Assign an owner",
		]);
		expect(told({ versions: [{ ...old, owner: 3 }] }, SEEN).unowned?.[1]).toBe("its owner left on 13 Mar");
		expect(told({ versions: [{ ...old, owner: 4 }] }, SEEN).unowned?.[1]).toBe("its owner hasn’t started yet");
		expect([told({ versions: [{ ...old, owner: 3 }] }, "2026-03-13").unowned, told({ versions: [{ ...old, owner: 4 }] }, "2026-04-01").unowned]).toEqual([
			undefined,
			undefined,
		]);
		const committed = { at: "2026-01-05", stage: "Survey", close: "2026-03-18", category: "commit" as const };
		expect(told({ versions: [committed] }, SEEN, { questions: [{ due: 1 }] })["shaky-commit"]).toEqual([
			"Shaky commit",
			"it is in commit, but strength is 0, below 60, it is only in Survey and it is overdue",
			"these points resolved, or another category",
			"Show that it will close, or remove it from commit",
		]);
		expect(
			told({ versions: [{ ...committed, close: "2026-03-25", stage: "Trial" }] }, SEEN, { flags: { "shaky-commit": { strength: 0 } } })["shaky-commit"]?.[1],
		).toBe("it is in commit, but its runway is short");
		expect(told({ versions: [{ ...committed, category: "pipeline" }] }, SEEN)["shaky-commit"]).toBeUndefined();
	});
	test("of questions: what is open, and what is known from long ago", () => {
		const questions = [{ key: true }, { weight: 2 }, { key: true }, {}];
		const versions = [{ at: "2026-01-05", stage: "Survey" }];
		expect(told({ versions }, SEEN, { questions })["under-qualified"]).toEqual([
			"Under-qualified",
			expect.stringMatching(/^2 key questions open, strength 0 where \d+ is expected$/),
			"key questions heard from the buyer, and strength near what the stage expects",
			"Ask the buyer: Question 1? · Question 3? · Question 2?",
		]);
		const answers: TestDeal["answers"] = [
			[0, "shown", "2026-01-06"],
			[1, "shown", "2026-01-06"],
			[2, "shown", "2026-01-07"],
			[3, "shown", "2026-01-06"],
		];
		expect(told({ versions, answers }, SEEN, { questions })["under-qualified"]).toBeUndefined();
		expect(told({ versions, answers }, SEEN, { questions })["stale-answers"]).toEqual([
			"Stale answers",
			"“Question 1?” was last answered on 6 Jan, 55 working days ago, and 1 more",
			"the key questions answered again",
			"Confirm again with the buyer: Question 1? · Question 3?",
		]);
		expect(told({ versions, answers }, SEEN, { questions: [{}, {}, {}, {}] })["stale-answers"]).toBeUndefined();
	});
});

test("every rule says what it is about, and its settings in words, unit and bounds", () => {
	for (const rule of RULES) {
		expect(rule.name).toMatch(/^[a-z]/);
		expect(rule.about).toMatch(/^[A-Z].{20,}\.$/);
		for (const spec of Object.values(rule.settings)) {
			expect(spec.unit).not.toBe("");
			expect(spec.min).toBeLessThan(spec.max);
			if (spec.standard !== null) expect(spec.standard >= spec.min && spec.standard <= spec.max).toBe(true);
		}
	}
	expect(new Set(RULES.map(({ code }) => code)).size).toBe(RULES.length);
});

test("what stalled says since when it counts, and the newest activity beyond the stage is named, of one day the first", () => {
	const stalled = (deal: Partial<TestDeal>, ...versions: TestDeal["versions"]) =>
		told({ ...deal, versions: [{ at: "2026-01-05" }, ...versions] }, SEEN).stalled;
	expect(stalled({})?.slice(1)).toEqual([
		"56 working days since it was opened, on 5 Jan",
		"a conversation with the buyer or a step to a later stage",
		"Get a conversation with the buyer on the calendar",
	]);
	expect(stalled({}, { at: "2026-02-02", stage: "Survey" })?.[1]).toBe("36 working days since the last step forward, on 2 Feb");
	expect(stalled({ activities: [["2026-02-10", "both"]] }, { at: "2026-02-02", stage: "Survey" })?.[1]).toBe(
		"30 working days since the last conversation, on 10 Feb",
	);
	const behind = (...activities: NonNullable<TestDeal["activities"]>) =>
		told({ versions: [{ at: "2026-03-02", stage: "Enquiry" }], activities }, SEEN, { kindPositions: { visit: 2, demo: 3, audit: 4 } })["stage-behind"]?.[1] ??
		null;
	expect(behind(["2026-03-10", "both", "done", "visit"], ["2026-03-11", "both", "done", "demo"])).toContain("a demo took place on 11 Mar");
	expect(behind(["2026-03-11", "both", "done", "demo"], ["2026-03-10", "both", "done", "visit"])).toContain("a demo took place on 11 Mar");
	expect(behind(["2026-03-11", "both", "done", "audit"], ["2026-03-11", "both", "done", "visit"])).toMatch(/^an audit took place on 11 Mar/);
	expect(behind(["2026-03-24", "both", "done", "demo"])).toContain("24 Mar");
	expect([
		behind(["2026-03-25", "both", "done", "demo"]),
		behind(["2026-03-01", "both", "done", "demo"]),
		behind(["2026-03-11", "both", "planned", "demo"]),
	]).toEqual([null, null, null]);
});

test("flags that are asked again for other norms are those that would be found anew", () => {
	const deal = (amount: number, at = "2026-03-02"): TestDeal => ({ versions: [{ at, amount, stage: "Trial", close: "2026-04-10" }] });
	const sizes = [100, 200, 300, 400, 500].map((amount) => deal(amount));
	const codes = (deals: readonly ({ flags: readonly { code: string; severity: number; reason: string }[] } | null)[]) =>
		deals.map((one) => one?.flags.map(({ code, severity: grave, reason }) => [code, grave, reason]));
	for (const other of [1, 250]) {
		const before = makeCompany(inBlocks(sizes, [deal(450)]));
		const was = surveyOn(before, day(SEEN));
		const fresh = makeCompany(inBlocks(sizes, [deal(other)]));
		const again = surveyOn(companyAfter(before, fresh, new Set([BLOCK_SIZE])), day(SEEN));
		expect(again.norms.medianAmount).not.toBe(was.norms.medianAmount);
		expect(codes(again.deals)).toEqual(codes(surveyOn(fresh, day(SEEN)).deals));
	}
});
