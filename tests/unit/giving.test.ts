import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { formatDay } from "@/core/time/day";
import { written } from "@/features/reaching/server/letters";
import { nextOfRepeat } from "@/features/tasks/server/nextOfRepeat";
import { fillIn, unknownFields } from "@/features/tasks/table/fill";
import { REPEAT_RULE, repeatOf, repeatWords, ruleOf, WEEKDAYS } from "@/features/tasks/table/repeat";
import { type Draft, inWorkingDays, linesOf, startOf } from "@/features/tasks/ui/giving";
import { day, makeRules } from "../kit/company";

describe("a text with fields", () => {
	const of = { deal: "Ovens", account: "Millrace", "close date": "18 Dec", owner: "Rae", flag: "Overdue 6 d" };
	test("has those filled in that there are, whatever their case; others stay and are named", () => {
		expect(fillIn("Ask {Account} about {deal}, {close date}: {flag} {who}", of)).toBe("Ask Millrace about Ovens, 18 Dec: Overdue 6 d {who}");
		expect(unknownFields("Ask {account} {who} {}")).toEqual(["{who}", "{}"]);
		expect(fillIn("{deal}", { ...of, deal: "{account}" })).toBe("{account}");
	});
});

describe("a repeat rule", () => {
	const repeat = fc.record({
		every: fc.constantFrom("day" as const, "week" as const, "month" as const),
		interval: fc.integer({ min: 1, max: 99 }),
		days: fc.uniqueArray(fc.constantFrom(...WEEKDAYS)),
		until: fc.constantFrom(null, "2027-03-31"),
	});
	test("says what was chosen, and what was chosen is read back from it", () => {
		fc.assert(
			fc.property(repeat, (chosen) => {
				const rule = ruleOf(chosen);
				expect(rule).toMatch(REPEAT_RULE);
				const days = chosen.every === "week" ? WEEKDAYS.filter((one) => chosen.days.includes(one)) : [];
				expect(repeatOf(rule)).toEqual({ ...chosen, days });
			}),
		);
		expect([repeatOf("FREQ=SECONDLY"), repeatOf("FREQ=DAILY;INTERVAL=1;UNTIL=20261399"), repeatOf("")]).toEqual([null, null, null]);
		expect(repeatWords("FREQ=WEEKLY;INTERVAL=2;BYDAY=MO,TH")).toBe("every 2 weeks on Monday and Thursday, until the deal closes");
	});
	test("gives the next working day after both the due day and today, and ends", () => {
		const { calendar } = makeRules({ holidays: ["2026-12-25"] });
		const next = (rule: string, due: string, today: string) => {
			const found = nextOfRepeat(rule, day(due), day(today), calendar);
			return found === null ? null : formatDay(found);
		};
		expect(next("FREQ=WEEKLY;INTERVAL=1", "2026-11-27", "2026-11-24")).toBe("2026-12-04");
		expect(next("FREQ=WEEKLY;INTERVAL=1", "2026-11-06", "2026-11-24")).toBe("2026-11-27");
		expect(next("FREQ=MONTHLY;INTERVAL=1", "2026-10-31", "2026-10-31")).toBe("2026-12-31");
		expect(next("FREQ=DAILY;INTERVAL=1", "2026-12-24", "2026-12-24")).toBe("2026-12-28");
		expect(next("FREQ=WEEKLY;INTERVAL=1;UNTIL=20261201", "2026-11-27", "2026-11-24")).toBeNull();
		fc.assert(
			fc.property(repeat, fc.integer({ min: 0, max: 400 }), (chosen, after) => {
				const due = day("2026-11-24");
				const found = nextOfRepeat(ruleOf({ ...chosen, until: null }), due, due + after, calendar);
				expect(found !== null && found > due + after && calendar.isWorking(found)).toBe(true);
			}),
			{ numRuns: 60 },
		);
	});
});

describe("tasks that are given together", () => {
	const deal = (id: string, given: Partial<Draft["deals"][number]> = {}): Draft["deals"][number] => ({
		id,
		name: `Deal ${id}`,
		account: "Firm",
		owner: "Rae",
		ownerActive: true,
		close: "2026-12-18",
		open: true,
		fields: { deal: `Deal ${id}`, account: "Firm", "close date": "18 Dec", owner: "Rae", flag: "no flag" },
		flags: [],
		...given,
	});
	const draft: Draft = {
		deals: [
			deal("a", {
				flags: [
					{ code: "stalled", label: "Stalled", remedy: "Call", severity: 1 },
					{ code: "overdue", label: "Overdue", remedy: "Agree a date", severity: 3 },
				],
			}),
			deal("b", { ownerActive: false }),
			deal("c", { open: false }),
		],
		people: [{ id: "p", name: "Piet" }],
		teams: ["North"],
		kits: [{ id: "k", name: "Kit", about: "", steps: [{ title: "Ask {account}", days: 2, importance: "high", asks: null, flags: [], checklist: ["x"] }] }],
		kinds: ["call"],
		days: ["2026-11-24", "2026-11-25", "2026-11-26"],
		due: "2026-11-27",
		periodCloses: "2026-12-31",
		today: "2026-11-24",
	};
	const start = { ...startOf({ dealIds: ["a", "b", "c"], title: "See {deal}" }), due: draft.due, kit: "k" };
	test("are one a deal that is open, with its fields, to its owner or to whoever gives them", () => {
		expect(linesOf(draft, start).map(({ dealId, title, who }) => [dealId, title, who])).toEqual([
			["a", "See Deal a", "Rae"],
			["b", "See Deal b", "you"],
		]);
		expect(linesOf(draft, { ...start, to: "team:North" }).map(({ team, assigneeId, who }) => [team, assigneeId, who])[0]).toEqual([
			"North",
			null,
			"anyone of North",
		]);
		expect(linesOf(draft, { ...start, to: "person:p" })[1]).toMatchObject({ assigneeId: "p", who: "Piet" });
	});
	test("are each deal’s own: its most severe flag’s remedy, and nothing where none is lit", () => {
		expect(linesOf(draft, { ...start, way: "each" }).map(({ title, flags }) => [title, flags])).toEqual([
			["Agree a date", ["overdue"]],
			["", []],
		]);
	});
	test("are a kit’s, each on its own day; what was changed of one line holds for it alone", () => {
		const giving = { ...start, way: "kit" as const, edits: { "b 0": { title: "Ask them", left: true } } };
		expect(linesOf(draft, giving).map(({ title, dueOn, left, options }) => [title, dueOn, left, options.importance])).toEqual([
			["Ask Firm", "2026-11-26", false, "high"],
			["Ask them", "2026-11-26", true, "high"],
		]);
		expect([inWorkingDays(draft, "2026-11-24"), inWorkingDays(draft, "2026-11-26"), inWorkingDays(draft, "2026-11-28")]).toEqual([
			"today",
			"in 2 working days",
			null,
		]);
	});
	test("without a deal are one of one’s own", () => {
		expect(linesOf({ ...draft, deals: [] }, { ...start, title: "Tidy up {deal}" })).toMatchObject([{ dealId: null, title: "Tidy up {deal}", who: "you" }]);
	});
});

test("a letter says the same in text and in HTML, and nothing of what is written in it is taken for HTML or a header", () => {
	const { subject, text, html } = written("One\r\nBcc: all@there", "Look <here>", [
		{ heading: "", lines: [{ words: "a & b", path: "/deals/x?task=1&y=2" }] },
		{ heading: "None", lines: [] },
	]);
	expect(subject).toBe("One Bcc: all@there");
	expect(text).toContain("- a & b\n  http");
	expect(html).toContain("Look &lt;here&gt;");
	expect(html).toContain("task=1&amp;y=2");
	expect(text + html).not.toContain("None");
});
