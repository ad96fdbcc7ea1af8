import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { CALLS } from "@/core/rounds/calls";
import { FATES } from "@/core/rounds/promise";
import { briefOf, briefText } from "@/features/rounds/server/briefOf";
import type { MinutesView } from "@/features/rounds/server/minutesView";
import type { PromiseView } from "@/features/rounds/server/promises";
import { saidOf } from "@/features/rounds/server/readMinutes";
import { minutesMarkdown } from "@/features/rounds/table/markdown";
import type { SheetView } from "@/features/sheet";

const totals = { target: null, won: 0, byWord: 10, byCalls: 20, shaky: 5 };
const view = (more: Partial<MinutesView>): MinutesView => ({
	id: "round-1",
	kind: "round",
	name: "Mondays with North",
	whose: "North team’s",
	period: "Oct–Dec 2026",
	on: "2026-11-24",
	startedBy: "Ruth Calloway",
	ended: true,
	note: "",
	before: totals,
	after: { ...totals, byCalls: 30 },
	deals: [],
	uncalled: 0,
	hidden: 0,
	promises: [],
	partial: false,
	kept: Object.fromEntries(FATES.map((fate) => [fate, 0])) as MinutesView["kept"],
	currency: "EUR",
	...more,
});
const deal = (more: Partial<MinutesView["deals"][number]>): MinutesView["deals"][number] => ({
	id: "d1",
	name: "Deck ovens",
	account: "Millrace Bread",
	owner: "Rae",
	ownerId: "rep1",
	category: "best_case",
	amount: 100,
	call: null,
	said: "Shaky",
	note: "",
	changes: [],
	...more,
});
const plain = (amount: number) => `€${amount}`;

describe("minutes as Markdown", () => {
	test("have as many cells in each line of a table as in its head, whatever was written", () => {
		const text = fc.string({ unit: fc.constantFrom("a", "|", "\\", "\n", " ", "`", "€", "#", "-") });
		fc.assert(
			fc.property(fc.array(fc.record({ name: text, account: text, note: text, said: text }), { minLength: 1, maxLength: 5 }), (deals) => {
				const lines = minutesMarkdown(view({ deals: deals.map((one) => deal(one)) }), plain).split("\n");
				const at = lines.findIndex((line) => line.startsWith("| Deal |"));
				// A bar that was written is escaped, so what is left are the table's own.
				const cells = (line: string) => line.replace(/\\\\/g, "").replace(/\\\|/g, "").split("|").length;
				for (const line of lines.slice(at, at + 2 + deals.length)) expect(line.startsWith("|")).toBe(true);
				expect(lines.slice(at, at + 2 + deals.length)).toHaveLength(2 + deals.length);
				expect(new Set(lines.slice(at + 2, at + 2 + deals.length).map((line) => (line.includes("\\\\") ? cells(lines[at] ?? "") : cells(line))))).toEqual(
					new Set([cells(lines[at] ?? "")]),
				);
			}),
		);
	});
	test("say totals before and after, tick what was done, and say that nothing was promised", () => {
		const promise = { id: "t", roundId: "r", dealId: "d1", who: "Rae Penn", whoId: "rep1", given: "2026-11-24", doneOn: null, note: null, flags: [] };
		const text = minutesMarkdown(
			view({
				promises: [
					{ ...promise, title: "Ring them", due: "2026-11-27", fate: "kept" },
					{ ...promise, title: "Send prices", due: null, fate: "not done" },
				],
			}),
			plain,
		);
		expect(text).toContain("| by the calls | €20 | €30 |");
		expect(text).toContain("| target | – | – |");
		expect(text).toContain("- [x] Ring them (Rae Penn, by 2026-11-27)");
		expect(text).toContain("- [ ] Send prices (Rae Penn)");
		expect(minutesMarkdown(view({}), plain)).toContain("## No promises were made");
	});
	test("a call is said with its day and its reason", () => {
		const call = { id: 1, to: null, why: null, competitor: null, left: "none", by: "Ruth", on: "2026-11-24" };
		expect(saidOf(null)).toBe("not called");
		expect(saidOf({ ...call, call: "moves", to: "2027-01-29", why: "Board" })).toBe("Moves to 29 Jan 2027: Board");
		expect(saidOf({ ...call, call: "gone", why: "Price", competitor: "Norrlund" })).toBe("Gone: Price: to Norrlund");
		expect(saidOf({ ...call, call: "rest", why: "Known" })).toBe("left to rest: Known");
		for (const one of CALLS) expect(saidOf({ ...call, call: one })).not.toBe(one);
	});
});

/** A sheet of which nothing is known but its name. */
const sheet = (more: Partial<SheetView> = {}): SheetView =>
	({
		id: "d1",
		name: "Deck ovens",
		account: "Millrace Bread",
		customer: null,
		source: null,
		competitor: null,
		status: "open",
		stage: "Survey",
		category: null,
		amount: 120_000,
		baseCurrency: "EUR",
		close: null,
		nextStep: null,
		nextStepDay: null,
		seen: "2026-11-24",
		created: "2026-11-02",
		flags: [],
		qualification: { strength: 0, coverage: 0, expected: 0, questions: [] },
		trail: { pushes: 0, pushedDays: 0 },
		visits: [],
		lastTouch: null,
		lastTouchDays: null,
		waiting: null,
		people: [],
		missing: [],
		quotes: [],
		plan: [],
		accountInfo: null,
		lines: [],
		happenings: [],
		tasks: [],
		...more,
	}) as unknown as SheetView;
const lines = (given: SheetView, heading: string, promises: readonly PromiseView[] = []) =>
	briefOf(given, promises)
		.find((part) => part.heading === heading)
		?.lines.map(({ words }) => words);

describe("a brief", () => {
	test("of a deal of which nothing is known says so part by part, and makes nothing up", () => {
		const parts = briefOf(sheet(), []);
		expect(parts.flatMap((part) => part.lines)).toHaveLength(2);
		for (const { lines: own, none } of parts) if (!own.length) expect(none.length).toBeGreaterThan(5);
		expect(lines(sheet(), "Overview")?.[0]).toMatch(/^Deck ovens for Millrace Bread: €1.200, due no day\.$/);
		const text = briefText("Deck ovens", parts);
		expect(text.startsWith("Deck ovens\n\nOVERVIEW\n- ")).toBe(true);
		expect(text).toContain("PEOPLE\nNobody of theirs is on the deal.");
	});
	test("quotes notes and their answer, the newest first, and not what we said", () => {
		const happening = { at: "", day: "2026-11-20", by: "Rae Penn", id: null, planned: false };
		const said = lines(
			sheet({
				happenings: [
					{ ...happening, kind: "note", direction: null, what: "They wait for the board", detail: null },
					{ ...happening, kind: "contact", direction: "in", what: "Email: Prices", detail: "Too dear" },
					{ ...happening, kind: "contact", direction: "out", what: "Email: Offer", detail: "Here is our offer" },
					{ ...happening, kind: "contact", direction: "both", what: "Call: Hall", detail: "  " },
				],
			}),
			"Latest notes",
		);
		expect(said).toEqual(["“They wait for the board”", "“Too dear”"]);
	});
	test("parts what is known from what isn’t, and asks first for the key questions that are due", () => {
		const question = {
			id: "q",
			area: "Need",
			help: null,
			weight: 1,
			key: false,
			due: true,
			day: null,
			age: null,
			gap: false,
			stale: false,
			note: null,
			at: null,
			effects: [],
			history: [],
		};
		const given = sheet({
			qualification: {
				strength: 0,
				coverage: 0,
				expected: 0,
				questions: [
					{ ...question, prompt: "Who signs?", level: "heard", day: "2026-11-02", note: "Lea", stale: true },
					{ ...question, prompt: "What is it worth?", level: "unknown", gap: true },
					{ ...question, prompt: "By when?", level: "assumed", gap: true, key: true },
					{ ...question, prompt: "Who else?", level: "against" },
				],
			},
		});
		expect(lines(given, "Known answers")).toEqual(["Who signs? Heard, “Lea” (old)", "Who else? Against us"]);
		expect(lines(given, "Open questions")).toEqual(["What is it worth? Unknown, and due by this stage", "By when? Assumed, and due by this stage"]);
		expect(lines(given, "Next questions and steps")).toEqual(["Ask: By when?", "Ask: What is it worth?"]);
	});
	test("says what was promised and what became of it, what is due and late, and which quotes wait", () => {
		const promise: PromiseView = {
			id: "t",
			roundId: "r",
			dealId: "d1",
			title: "Ring them",
			who: "Rae Penn",
			whoId: "rep1",
			given: "2026-11-17",
			due: "2026-11-20",
			fate: "not done",
			doneOn: null,
			note: null,
			flags: [],
		};
		const given = sheet({
			nextStep: "Visit",
			nextStepDay: "2026-12-01",
			tasks: [{ id: "t", title: "Ring them", assignee: "Rae", due: "2026-11-20", state: "open", late: true, stories: [] }],
			plan: [
				{ id: "p", title: "Legal reads it", due: "2026-12-02", side: "theirs", done: null, late: false },
				{ id: "p2", title: "Hall measured", due: null, side: "ours", done: "2026-11-10", late: false },
			],
			quotes: [
				{ id: "q", number: "Q-1", sent: "2026-11-02", valid: "2026-12-24", answer: null, amount: null, currency: null },
				{ id: "q2", number: "Q-0", sent: "2026-10-02", valid: "2026-11-02", answer: null, amount: null, currency: null },
			],
		});
		expect(lines(given, "Agreed", [promise])).toEqual([
			"Rae Penn promised: Ring them, by 20 Nov: not done.",
			"Next step: Visit, 1 Dec.",
			"Done: Hall measured, 10 Nov.",
		]);
		expect(lines(given, "Due")).toEqual([
			"Ring them (Rae), 20 Nov, overdue.",
			"Legal reads it (theirs), 2 Dec.",
			"Quote Q-1 is valid until 24 Dec, and unanswered.",
		]);
	});
});
