import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { Flag, fired } from "@/core/flags/rule";
import { asOf, asOfInstant } from "@/core/history/columns";
import { inspect } from "@/core/inspect";
import { normsOn } from "@/core/norms";
import { worksOn } from "@/core/people/person";
import type { SeenDeal } from "@/core/seenDeal";
import { NO_DAY } from "@/core/time/day";
import { pattern } from "@/features/search/server/search";
import { headlineOf, settingWords } from "@/features/sheet/server/parts";
import { at, day, makeCompany } from "../kit/company";

/** What its words are asked of, which these don’t look at. */
const subject = () => {
	const company = makeCompany([{ versions: [{ at: "2026-04-01" }] }]);
	return inspect(company, 0, normsOn(company, day("2026-04-20"))) as SeenDeal;
};
const flag = (code: string, reason: string) =>
	new Flag({ code, fires: () => fired(2, () => ({ evidence: {}, label: code, reason, clears: "", remedy: "" })) }, {}, 2, subject());

describe("the headline of a sheet", () => {
	test("tells the two gravest reasons in one sentence, and how many there are besides", () => {
		expect(headlineOf([], "open")).toBe("No flags are on.");
		expect(headlineOf([flag("a", "close date was 18 Nov")], "open")).toBe("Close date was 18 Nov.");
		expect(headlineOf([flag("a", "it is late"), flag("b", "nobody owns it")], "open")).toBe("It is late; nobody owns it.");
		expect(headlineOf([flag("a", "x"), flag("b", "y"), flag("c", "z")], "open")).toBe("X; y; and 1 more flag.");
		expect(headlineOf([flag("a", "x"), flag("b", "y"), flag("c", "z"), flag("d", "w")], "open")).toBe("X; y; and 2 more flags.");
	});
	test("of a closed deal says how it closed", () => expect(headlineOf([], "won")).toBe("This deal is won."));
});

describe("the settings of a flag in words", () => {
	test("are those in force in the deal’s stage", () => {
		expect(settingWords("slipped", {}, "Terms")).toEqual(["2 pushes", "1 quarter ends"]);
		expect(settingWords("slipped", { slipped: { pushes: 4, stages: { Terms: { pushes: 9 } } } }, "Terms")).toEqual(["9 pushes", "1 quarter ends"]);
		expect(settingWords("slipped", { slipped: { pushes: 4, stages: { Terms: { pushes: 9 } } } }, "Enquiry")).toEqual(["4 pushes", "1 quarter ends"]);
		expect(settingWords("overdue", {}, null)).toEqual([]);
		expect(settingWords("no-next-step", {}, null)).toEqual([]);
		expect(settingWords("unheard-of", {}, null)).toEqual([]);
	});
});

describe("somebody works here", () => {
	const on = (from: number, to: number) => worksOn({ activeFrom: from, activeTo: to }, day("2026-11-24"));
	test("from the first day to the last, both included, and without end where none is given", () => {
		expect(on(NO_DAY, NO_DAY)).toBe(true);
		expect(on(day("2026-11-24"), day("2026-11-24"))).toBe(true);
		expect(on(day("2026-11-25"), NO_DAY)).toBe(false);
		expect(on(NO_DAY, day("2026-11-23"))).toBe(false);
	});
});

describe("a pattern to search by", () => {
	test("takes the signs of patterns as they are written", () => {
		expect(pattern("50%_off\\")).toBe("%50\\%\\_off\\\\%");
		expect(pattern("plain")).toBe("%plain%");
	});
});

describe("a deal as of an instant", () => {
	const company = makeCompany([
		{ versions: [{ at: "2026-03-02 09:00" }, { at: "2026-03-02 17:00", amount: 2 }, { at: "2026-03-05 00:00", amount: 3 }] },
		{ versions: [{ at: "2026-04-01 09:00" }] },
	]);
	test("is its last version at or before it", () => {
		const on = (text: string, deal = 0) => asOfInstant(company.history, deal, at(text));
		expect([on("2026-03-02 08:59"), on("2026-03-02 09:00"), on("2026-03-02 17:00"), on("2026-03-04 23:59"), on("2026-03-05 00:00")]).toEqual([-1, 0, 1, 1, 2]);
		expect([on("2026-03-31 00:00", 1), on("2026-04-02 00:00", 1)]).toEqual([-1, 3]);
	});
	test("at the last moment of a day is what the day ends with", () => {
		const days = fc.integer({ min: day("2026-02-25"), max: day("2026-04-05") });
		fc.assert(
			fc.property(days, fc.constantFrom(0, 1), (on, deal) => {
				expect(asOfInstant(company.history, deal, (on + 1) * 86_400_000 - 1)).toBe(asOf(company.history, deal, on));
			}),
		);
	});
});

test("a stage’s own settings reach every rule of a deal in it, and no other", () => {
	const versions = [{ at: "2026-03-02", stage: "Trial", close: "2026-03-20" }];
	const rules = {
		flags: Object.fromEntries(
			["overdue", "stalled", "no-signatory", "lone-contact", "no-next-step"].map((code) => [code, { stages: { Trial: { on: false } } }]),
		),
	};
	const codes = (stage: string) => {
		const company = makeCompany([{ versions: versions.map((version) => ({ ...version, stage })) }], rules);
		return inspect(company, 0, normsOn(company, day("2026-04-20")))?.flags.map((f) => f.code) ?? [];
	};
	for (const code of Object.keys(rules.flags)) {
		expect(codes("Trial")).not.toContain(code);
		expect(codes("Proposal")).toContain(code);
	}
});
