import { describe, expect, test } from "vitest";
import { day, makeCompany, type TestDeal, type TestRules } from "../../../tests/kit/company";
import { inspect } from "../inspect";
import { normsOn } from "../norms";
import { formatDay } from "../time/day";
import { RULES } from "./list";
import { litSince } from "./since";

const flag = (code: string, deal: TestDeal, iso: string, rules: TestRules = {}, others: TestDeal[] = []) => {
	const company = makeCompany([deal, ...others], rules);
	return inspect(company, 0, normsOn(company, day(iso)))?.flags.find((f) => f.code === code);
};
/** In a stage from its first day. */
const staged = (stage: string, rest: Partial<TestDeal> = {}): TestDeal => ({ versions: [{ at: "2026-03-02", stage }], ...rest });

describe("short runway", () => {
	const due = (close: string, stage = "Proposal"): TestDeal => ({ versions: [{ at: "2026-03-02", stage, close }] });
	test("compares the days left with what is needed from the next stage, and from this one less its age", () => {
		// Proposal needs 20 in all (two stages of ten), of which the quick ones 12; after 8 working days the next stage's 6 are left.
		expect(flag("short-runway", due("2026-03-18"), "2026-03-02")).toBeUndefined();
		expect(flag("short-runway", due("2026-03-17"), "2026-03-02")).toMatchObject({
			severity: 2,
			evidence: { left: 11, needed: 12, percentile: 25, measured: false },
		});
		expect(flag("short-runway", due("2026-03-20"), "2026-03-12")).toBeUndefined();
		expect(flag("short-runway", due("2026-03-19"), "2026-03-12")).toMatchObject({ evidence: { left: 5, needed: 6 } });
	});
	test("is measured against the percentile that is set", () => {
		const half = { flags: { "short-runway": { percentile: 50 } } };
		expect(flag("short-runway", due("2026-03-30"), "2026-03-02", half)).toBeUndefined();
		expect(flag("short-runway", due("2026-03-27"), "2026-03-02", half)).toMatchObject({ evidence: { left: 19, needed: 20 } });
		expect(flag("short-runway", due("2026-03-31"), "2026-03-18", half)).toMatchObject({ evidence: { left: 9, needed: 10 } });
	});
	test("in the last stage at least one day is needed", () => {
		expect(flag("short-runway", due("2026-03-23", "Terms"), "2026-03-20")).toBeUndefined();
		expect(flag("short-runway", due("2026-03-20", "Terms"), "2026-03-20")).toMatchObject({ evidence: { left: 0, needed: 1 } });
	});
	test("says nothing of a date that has passed or is missing", () => {
		expect(flag("short-runway", due("2026-03-10"), "2026-03-11")).toBeUndefined();
		expect(flag("short-runway", staged("Terms"), "2026-03-11")).toBeUndefined();
	});
});

describe("stale answers", () => {
	const deal = staged("Enquiry", { answers: [[0, "heard", "2026-03-03"]] });
	test("fires once the answer to a key question is older than 45 working days", () => {
		const questions = [{ key: true }];
		expect(flag("stale-answers", deal, "2026-05-05", { questions })).toBeUndefined();
		expect(flag("stale-answers", deal, "2026-05-06", { questions })).toMatchObject({ severity: 1, evidence: { days: 46, questions: ["q1"] } });
		expect(flag("stale-answers", deal, "2026-05-06", { questions: [{}] })).toBeUndefined();
		expect(flag("stale-answers", { ...deal, answers: [[0, "unknown", "2026-03-03"]] }, "2026-05-06", { questions })).toBeUndefined();
	});
	test("names the key questions that are old and no others: the oldest in words, and how many more", () => {
		const several = staged("Enquiry", {
			answers: [
				[0, "heard", "2026-03-04"],
				[1, "heard", "2026-03-03"],
				[2, "heard", "2026-03-02"],
				[3, "heard", "2026-05-05"],
			],
		});
		const questions = [{ key: true }, { key: true }, {}, { key: true }];
		const lit = flag("stale-answers", several, "2026-05-07", { questions });
		// The third is older still and not key; the fourth is key and fresh. 3 Mar to 7 May are 47 working days.
		expect(lit?.evidence).toEqual({ questions: ["q1", "q2"], oldest: "2026-03-03", days: 47 });
		expect(lit?.reason).toMatch(/^“[^”]+” was last answered on 3 Mar, 47 working days ago, and 1 more$/);
		expect(lit?.remedy.split(" · ")).toHaveLength(2);
	});
	test("its days decide which answers are old, also while the rule is off, and can differ by stage", () => {
		const seen = (flags: TestRules["flags"]) => {
			const company = makeCompany([deal], { questions: [{}], flags: flags ?? {} });
			return inspect(company, 0, normsOn(company, day("2026-03-16")))?.qualification.standings[0]?.stale;
		};
		expect(seen({ "stale-answers": { days: 8 } })).toBe(true);
		expect(seen({ "stale-answers": { on: false, days: 8 } })).toBe(true);
		expect(seen({ "stale-answers": { days: 8, stages: { Enquiry: { days: 9 } } } })).toBe(false);
	});
});

describe("one contact", () => {
	const met = (...activities: NonNullable<TestDeal["activities"]>) => staged("Trial", { activities });
	test("counts the people in touches of the last 60 days", () => {
		const deal = met(["2026-03-03", "both", "done", "call", ["ann"]], ["2026-03-10", "out", "done", "email", ["bo", "ann"]]);
		expect(flag("lone-contact", deal, "2026-03-10")).toBeUndefined();
		// From 9 May on, the mail of 10 March lies outside (9 May − 60 days).
		expect(flag("lone-contact", deal, "2026-05-08")).toBeUndefined();
		expect(flag("lone-contact", deal, "2026-05-09")).toMatchObject({ severity: 2, evidence: { contacts: 0 } });
	});
	test("planned and internal ones don’t count, nor does an early stage", () => {
		const deal = met(
			["2026-03-03", "both", "done", "call", ["ann"]],
			["2026-03-04", "none", "done", "note", ["bo"]],
			["2026-04-04", "both", "planned", "call", ["cy"]],
		);
		expect(flag("lone-contact", deal, "2026-03-10")).toMatchObject({ label: "One contact", evidence: { contacts: 1 } });
		expect(flag("lone-contact", { ...deal, versions: [{ at: "2026-03-02", stage: "Survey" }] }, "2026-03-10")).toBeUndefined();
	});
});

describe("no signatory", () => {
	test("from the third stage on somebody must be known to decide", () => {
		expect(flag("no-signatory", staged("Trial"), "2026-03-03")).toMatchObject({ severity: 2 });
		expect(flag("no-signatory", staged("Survey"), "2026-03-03")).toBeUndefined();
		expect(flag("no-signatory", staged("Trial", { signatory: true }), "2026-03-03")).toBeUndefined();
	});
	test("a stage can have its own settings, or be left out", () => {
		expect(flag("no-signatory", staged("Survey"), "2026-03-03", { flags: { "no-signatory": { stages: { Survey: { from: 2 } } } } })).toBeDefined();
		expect(flag("no-signatory", staged("Trial"), "2026-03-03", { flags: { "no-signatory": { stages: { Trial: { on: false } } } } })).toBeUndefined();
		expect(flag("no-signatory", staged("Trial"), "2026-03-03", { flags: { "no-signatory": { on: false, stages: { Trial: { on: true } } } } })).toBeDefined();
	});
});

describe("gone quiet", () => {
	const deal = staged("Enquiry", { activities: [["2026-03-06", "out"]] });
	test("fires from seven working days after we wrote, doubly from fourteen", () => {
		expect(flag("gone-quiet", deal, "2026-03-16")).toBeUndefined();
		expect(flag("gone-quiet", deal, "2026-03-17")).toMatchObject({ severity: 1, label: "Quiet 7 d" });
		expect(flag("gone-quiet", deal, "2026-03-26")).toMatchObject({ severity: 2, label: "Quiet 14 d" });
	});
	test("a word from them clears it", () => {
		expect(
			flag(
				"gone-quiet",
				{
					...deal,
					activities: [
						["2026-03-06", "out"],
						["2026-03-09", "in"],
					],
				},
				"2026-03-26",
			),
		).toBeUndefined();
	});
});

describe("amount cut", () => {
	const cut = (to: number, currency = "EUR"): TestDeal => ({
		versions: [
			{ at: "2026-01-05", amount: 1000 },
			{ at: "2026-03-02", amount: to, currency },
		],
	});
	test("fires at 15% below the highest in force within 60 days, doubly at 30%", () => {
		expect(flag("amount-cut", cut(851), "2026-03-03")).toBeUndefined();
		expect(flag("amount-cut", cut(850), "2026-03-03")).toMatchObject({ severity: 1, label: "Amount cut 15%" });
		expect(flag("amount-cut", cut(700), "2026-03-03")).toMatchObject({ severity: 2, evidence: { highest: 100_000, amount: 70_000 } });
	});
	test("the old amount was last in force on 1 March, so the 60 days end on 29 April", () => {
		expect(flag("amount-cut", cut(500), "2026-04-29")).toBeDefined();
		expect(flag("amount-cut", cut(500), "2026-04-30")).toBeUndefined();
	});
	test("another currency, a blank and a correction on the same day are no cut", () => {
		expect(flag("amount-cut", cut(500, "GBP"), "2026-03-03", { rates: [["GBP", "2026-01-01", "1.2"]] })).toBeUndefined();
		expect(flag("amount-cut", { versions: [{ at: "2026-01-05" }, { at: "2026-03-02", amount: null }] }, "2026-03-03")).toBeUndefined();
		const typo: TestDeal = {
			versions: [
				{ at: "2026-03-02 08:00", amount: 10_000 },
				{ at: "2026-03-02 09:00", amount: 1000 },
			],
		};
		expect(flag("amount-cut", typo, "2026-03-03")).toBeUndefined();
	});
});

describe("stepped back", () => {
	const deal: TestDeal = {
		versions: [
			{ at: "2026-03-02", stage: "Trial" },
			{ at: "2026-03-10", stage: "Survey" },
		],
	};
	test("for thirty days", () => {
		expect(flag("stepped-back", deal, "2026-03-09")).toBeUndefined();
		expect(flag("stepped-back", deal, "2026-04-08")).toMatchObject({ severity: 1, reason: "it went back from Trial to Survey on 10 Mar" });
		expect(flag("stepped-back", deal, "2026-04-09")).toBeUndefined();
	});
});

describe("stage behind the log", () => {
	const kindPositions = { demo: 3 };
	const deal = (when: string, stage = "Survey"): TestDeal => ({
		versions: [
			{ at: "2026-03-02", stage: "Enquiry" },
			{ at: "2026-03-09", stage },
		],
		activities: [[when, "both", "done", "demo"]],
	});
	test("a demo during the survey belongs to the trial", () => {
		expect(flag("stage-behind", deal("2026-03-10"), "2026-03-12", { kindPositions })).toMatchObject({
			evidence: { kind: "demo", on: "2026-03-10", belongsTo: "Trial" },
		});
		expect(flag("stage-behind", deal("2026-03-10", "Trial"), "2026-03-12", { kindPositions })).toBeUndefined();
		expect(flag("stage-behind", deal("2026-03-10"), "2026-03-12")).toBeUndefined();
	});
	test("what happened before the current visit began is history", () => {
		expect(flag("stage-behind", deal("2026-03-06"), "2026-03-12", { kindPositions })).toBeUndefined();
		expect(flag("stage-behind", deal("2026-03-09"), "2026-03-12", { kindPositions })).toBeDefined();
	});
});

describe("shaky commit", () => {
	const questions = [{ weight: 60 }, { weight: 40 }];
	const commit = (stage: string, close: string, level: "shown" | "heard" = "shown"): TestDeal => ({
		versions: [{ at: "2026-03-02", stage, close, category: "commit" }],
		answers: [[0, level, "2026-03-03"]],
	});
	test("a strong deal in time is no shaky commit, and only commits are", () => {
		expect(flag("shaky-commit", commit("Trial", "2026-06-01"), "2026-03-04", { questions })).toBeUndefined();
		const open: TestDeal = { versions: [{ at: "2026-03-02", stage: "Enquiry", close: "2026-03-03", category: "best_case" }] };
		expect(flag("shaky-commit", open, "2026-03-04", { questions })).toBeUndefined();
	});
	test("each doubt is enough and is named", () => {
		const doubts = (deal: TestDeal, iso = "2026-03-04") => flag("shaky-commit", deal, iso, { questions })?.evidence.doubts;
		expect(doubts(commit("Trial", "2026-06-01", "heard"))).toEqual(["strength is 40, below 60"]);
		expect(doubts(commit("Survey", "2026-06-01"))).toEqual(["it is only in Survey"]);
		expect(doubts(commit("Trial", "2026-03-04"), "2026-03-05")).toEqual(["it is overdue"]);
		expect(doubts(commit("Trial", "2026-03-06"))).toEqual(["its runway is short"]);
	});
	test("the runway is short by that rule’s own percentile", () => {
		const flags = { "short-runway": { percentile: 90 } };
		const deal = commit("Trial", "2026-04-13");
		expect(flag("shaky-commit", deal, "2026-03-04", { questions })).toBeUndefined();
		expect(flag("shaky-commit", deal, "2026-03-04", { questions, flags })?.evidence.doubts).toEqual(["its runway is short"]);
	});
	test("the doubts hold although their own rules are off", () => {
		const flags = { overdue: { on: false }, "short-runway": { on: false } };
		expect(flag("shaky-commit", commit("Trial", "2026-03-06"), "2026-03-04", { questions, flags })).toBeDefined();
	});
});

describe("quote lapsing", () => {
	const quoted = (...quotes: NonNullable<TestDeal["quotes"]>) => staged("Proposal", { quotes });
	test("fires from five working days before it lapses, and goes on after", () => {
		const deal = quoted(["2026-03-02", "2026-03-20"]);
		expect(flag("quote-lapsing", deal, "2026-03-12")).toBeUndefined();
		expect(flag("quote-lapsing", deal, "2026-03-13")).toMatchObject({ severity: 2, label: "Quote lapses in 5 d" });
		expect(flag("quote-lapsing", deal, "2026-03-20")).toMatchObject({ label: "Quote lapses today" });
		expect(flag("quote-lapsing", deal, "2026-03-24")).toMatchObject({ label: "Quote lapsed", evidence: { days: -2 } });
	});
	test("only the newest that was sent by then counts, and an answer by then clears it", () => {
		const renewed = quoted(["2026-03-02", "2026-03-20"], ["2026-03-18", "2026-05-20"]);
		expect(flag("quote-lapsing", renewed, "2026-03-17")).toBeDefined();
		expect(flag("quote-lapsing", renewed, "2026-03-18")).toBeUndefined();
		const answered = quoted(["2026-03-02", "2026-03-20", "2026-03-19"]);
		expect(flag("quote-lapsing", answered, "2026-03-18")).toBeDefined();
		expect(flag("quote-lapsing", answered, "2026-03-19")).toBeUndefined();
	});
});

describe("no owner", () => {
	const owned = (owner: number | null): TestDeal => ({ versions: [{ at: "2026-03-02", owner }] });
	test("nobody, somebody who left, and somebody who is still to come", () => {
		expect(flag("unowned", owned(0), "2026-03-10")).toBeUndefined();
		expect(flag("unowned", owned(null), "2026-03-10")).toMatchObject({ severity: 3, reason: "nobody owns it" });
		expect(flag("unowned", owned(3), "2026-03-13")).toBeUndefined();
		expect(flag("unowned", owned(3), "2026-03-14")).toMatchObject({ reason: "its owner left on 13 Mar", evidence: { left: "2026-03-13" } });
		expect(flag("unowned", owned(4), "2026-03-31")).toBeDefined();
		expect(flag("unowned", owned(4), "2026-04-01")).toBeUndefined();
	});
});

describe("since when", () => {
	const deal: TestDeal = {
		versions: [
			{ at: "2026-03-02", close: "2026-03-09" },
			{ at: "2026-03-12", close: "2026-03-16" },
		],
		activities: [["2026-03-03", "in"]],
	};
	const since = (iso: string) => {
		const company = makeCompany([deal]);
		const seen = inspect(company, 0, normsOn(company, day(iso)));
		const found = litSince(company, 0, day(iso), seen?.flags.map((f) => f.code) ?? []);
		return Object.fromEntries([...found].map(([code, on]) => [code, formatDay(on)]));
	};
	test("a flag says the first day since which it fires without a break", () => {
		expect(since("2026-03-11").overdue).toBe("2026-03-10");
		expect(since("2026-03-12").overdue).toBeUndefined();
		expect(since("2026-03-18")).toMatchObject({ overdue: "2026-03-17", "reply-owed": "2026-03-05" });
	});
	test("one that has fired from the first day on lit on that day", () => expect(since("2026-03-18")["no-next-step"]).toBe("2026-03-02"));
	test("on the day before, it didn’t fire: the law, for every flag of every day", () => {
		const company = makeCompany([deal]);
		for (let on = day("2026-03-02"); on < day("2026-04-20"); on++) {
			const codes = inspect(company, 0, normsOn(company, on))?.flags.map((f) => f.code) ?? [];
			for (const [code, first] of litSince(company, 0, on, codes)) {
				const fires = (at: number) => inspect(company, 0, normsOn(company, at))?.flags.some((f) => f.code === code) ?? false;
				expect(fires(first - 1)).toBe(false);
				for (let at = first; at <= on; at++) expect(fires(at)).toBe(true);
			}
		}
	});
});

test("every rule has a code of its own, and settings within their own bounds", () => {
	expect(new Set(RULES.map((rule) => rule.code)).size).toBe(RULES.length);
	for (const rule of RULES) {
		for (const spec of Object.values(rule.settings)) {
			if (spec.standard !== null) expect(spec.min <= spec.standard && spec.standard <= spec.max).toBe(true);
		}
	}
});
