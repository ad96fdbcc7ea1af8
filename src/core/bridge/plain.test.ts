import fc from "fast-check";
import { expect, test } from "vitest";
import { day, makeCompany, STAGES, type TestDeal } from "../../../tests/kit/company";
import { RATES } from "../../../tests/kit/histories";
import type { Company } from "../company";
import { blockOf, firstRow } from "../history/columns";
import { amountBaseOf } from "../inspect";
import { type Day, parseDay } from "../time/day";
import { bridge } from "./bridge";
import { stageFlow } from "./flow";
import type { Scope } from "./scope";
import type { StepKind } from "./steps";
import { trend } from "./trend";

/*
 * The contract’s text once more as plainly as it is written, without columns: what the fast ones answer has to be the same.
 * Days and close dates lie where they count: on the two moments, on the period’s ends, and a day beside each.
 */

const P = { start: day("2026-10-01"), end: day("2026-12-31") };
const [A, B] = [day("2026-11-09"), day("2026-11-24")];
const DAYS = ["2026-09-30", "2026-10-01", "2026-11-08", "2026-11-09", "2026-11-10", "2026-11-18", "2026-11-24", "2026-11-25"];
const CLOSES = ["2026-09-30", "2026-10-01", "2026-11-20", "2026-12-31", "2027-01-01", null];

const version = fc.record({
	stage: fc.constantFrom("Enquiry", "Terms", "Won", "Lost", "removed"),
	amount: fc.constantFrom(null, 0, 7, 250_000),
	currency: fc.constantFrom("EUR", "GBP"),
	close: fc.constantFrom(...CLOSES),
	owner: fc.constantFrom(null, 0, 1, 2),
	category: fc.constantFrom("commit" as const, "pipeline" as const),
	on: fc.nat({ max: DAYS.length - 1 }),
});
const histories = fc.array(fc.array(version, { minLength: 1, maxLength: 5 }), { maxLength: 6 }).map((deals): TestDeal[] =>
	deals.map((versions) => ({
		created: "2026-09-01",
		versions: [...versions].sort((a, b) => a.on - b.on).map(({ on, ...rest }, i) => ({ ...rest, at: `${DAYS[on]} 1${i}:00` })),
	})),
);
const scopes = fc.constantFrom<Scope>(null, new Set([0]), new Set([1, 2]));

interface State {
	readonly kind: "open" | "won" | "lost";
	readonly stage: string;
	readonly close: Day | null;
	readonly owner: number | null;
	readonly row: number;
}

const isIn = (state: State | null, scope: Scope): boolean =>
	state !== null && state.kind === "open" && state.close !== null && state.close >= P.start && state.close <= P.end && isOurs(state, scope);
const isOurs = ({ owner }: State, scope: Scope): boolean => scope === null || (owner !== null && scope.has(owner));
const isDue = (close: Day | null): boolean => close !== null && close >= P.start && close <= P.end;

/** How a deal stood at the end of a day; null where it was off the books. */
interface DayEnd {
	readonly on: Day;
	readonly state: State | null;
}

/** Each deal’s day-ends with a version of their own: the last of a day counts. */
function dayEndsOf(deals: readonly TestDeal[], company: Company): DayEnd[][] {
	return deals.map(({ versions }, deal) => {
		const byDay = new Map<Day, State | null>();
		versions.forEach(({ at: when, stage, close, owner }, i) => {
			const on = day(when.slice(0, 10));
			const kind = stage === "removed" ? null : stage === "Won" ? ("won" as const) : stage === "Lost" ? ("lost" as const) : ("open" as const);
			const row = firstRow(blockOf(company.history, deal), deal) + i;
			byDay.set(on, kind && { kind, stage: stage as string, close: close ? parseDay(close) : null, owner: owner ?? null, row });
		});
		return [...byDay].sort(([a], [b]) => a - b).map(([on, state]) => ({ on, state }));
	});
}
const at = (ends: readonly DayEnd[], when: Day): State | null => ends.findLast(({ on }) => on <= when)?.state ?? null;

const into = (a: State | null, scope: Scope): StepKind =>
	a === null ? "new" : a.kind !== "open" ? "reopened" : !isOurs(a, scope) ? "handed-in" : a.close === null || a.close > P.end ? "pulled-in" : "rolled-in";
const outOf = (b: State | null, scope: Scope): StepKind =>
	b === null ? "removed" : b.kind !== "open" ? b.kind : !isOurs(b, scope) ? "handed-out" : b.close === null || b.close > P.end ? "pushed-out" : "moved-earlier";

/** The last open state by day-ends up to a day. */
const lastOpen = (ends: readonly DayEnd[], upTo: Day): State | null => ends.findLast(({ on, state }) => on <= upTo && state?.kind === "open")?.state ?? null;

function plainBridge(deals: readonly TestDeal[], company: Company, scope: Scope) {
	const steps = new Map<string, { amount: number; deals: number[] }>();
	const add = (kind: string, deal: number, amount: number) => {
		const step = steps.get(kind) ?? { amount: 0, deals: [] };
		steps.set(kind, { amount: step.amount + amount, deals: [...step.deals, deal] });
	};
	dayEndsOf(deals, company).forEach((ends, deal) => {
		const [before, after] = [at(ends, A), at(ends, B)];
		const worth = (state: State | null) => (state ? amountBaseOf(company, blockOf(company.history, deal), state.row, B) : 0);
		const [a, b] = [worth(before), worth(after)];
		if (isIn(before, scope)) add("opening", deal, a);
		if (isIn(after, scope)) add("closing", deal, b);
		if (isIn(before, scope)) {
			if (after && b > a) add("grew", deal, b - a);
			if (after && b < a) add("shrank", deal, a - b);
			if (!isIn(after, scope)) add(outOf(after, scope), deal, after ? b : a);
		} else if (isIn(after, scope)) add(into(before, scope), deal, b);
		else if (after && after.kind !== "open" && isDue(after.close) && isOurs(after, scope) && (before === null || before.kind === "open")) {
			const open = lastOpen(ends, B);
			if (after.kind === "lost" && open && !isDue(open.close)) add("lostOutside", deal, b);
			else {
				add(into(before, scope), deal, b);
				add(after.kind, deal, b);
			}
		}
	});
	return Object.fromEntries(steps);
}

test("the bridge is as its contract says, deal by deal", () => {
	fc.assert(
		fc.property(histories, scopes, (deals, scope) => {
			const company = makeCompany(deals, { rates: RATES });
			const found = bridge(company, A, B, P, scope);
			const told = [
				["opening", found.opening] as const,
				...found.steps.map((step) => [step.kind, step] as const),
				["closing", found.closing] as const,
				["lostOutside", found.lostOutside] as const,
			].flatMap(([kind, { amount, deals: list }]) => (list.length ? [[kind, { amount, deals: [...list].map(({ deal }) => deal) }]] : []));
			expect(Object.fromEntries(told)).toEqual(plainBridge(deals, company, scope));
		}),
		{ numRuns: 400 },
	);
});

test("the trend counts on each day what is open then, by stage, category and part, and what was won and lost so far", () => {
	fc.assert(
		fc.property(histories, scopes, (deals, scope) => {
			const company = makeCompany(deals, { rates: RATES });
			const points = trend(company, [A, B], P, scope, (deal) => deal % 2);
			for (const point of points) {
				const ends = dayEndsOf(deals, company);
				const states = ends.map((own) => at(own, point.day));
				const worth = (hold: (state: State, deal: number) => boolean) =>
					states.reduce((sum, state, deal) => sum + (state && hold(state, deal) ? amountBaseOf(company, blockOf(company.history, deal), state.row, B) : 0), 0);
				const open = (state: State) => isIn(state, scope);
				expect([point.count, point.open]).toEqual([states.filter((state) => isIn(state, scope)).length, worth(open)]);
				expect(point.byStage).toEqual(STAGES.map((stage) => worth((state) => open(state) && state.stage === stage)));
				expect(point.byCategory.reduce((sum, amount) => sum + amount, 0)).toBe(point.open);
				expect([point.byPart[0] ?? 0, point.byPart[1] ?? 0]).toEqual([0, 1].map((part) => worth((state, deal) => open(state) && deal % 2 === part)));
				const closed = (kind: "won" | "lost", outside: boolean) =>
					ends.reduce((sum, own, deal) => {
						const state = states[deal];
						if (state?.kind !== kind || !isOurs(state, scope)) return sum;
						// Closed on the first day of the run of closed day-ends that still holds.
						const past = own.filter(({ on }) => on <= point.day);
						const from = past[past.findLastIndex((one) => one.state?.kind !== kind) + 1]?.on ?? 0;
						if (from < P.start || from > P.end) return sum;
						const last = lastOpen(own, point.day);
						const isOutside = kind === "lost" && last !== null && !isDue(last.close);
						return isOutside === outside ? sum + amountBaseOf(company, blockOf(company.history, deal), state.row, B) : sum;
					}, 0);
				expect([point.won, point.lost, point.lostOutside]).toEqual([closed("won", false), closed("lost", false), closed("lost", true)]);
			}
		}),
		{ numRuns: 300 },
	);
});

test("the stage flow says of each deal where it stood and stands, and leaves out those outside at both ends", () => {
	fc.assert(
		fc.property(histories, scopes, (deals, scope) => {
			const company = makeCompany(deals, { rates: RATES });
			const place = (state: State | null) =>
				!state
					? "not yet there"
					: !isOurs(state, scope)
						? "outside the period"
						: state.kind !== "open"
							? state.kind
							: isIn(state, scope)
								? state.stage
								: "outside the period";
			const cells: Record<string, number[]> = {};
			const ends = dayEndsOf(deals, company);
			ends.forEach((own, deal) => {
				const [from, to] = [place(at(own, A)), place(at(own, B))];
				if (STAGES.slice(0, 5).includes(from) || STAGES.slice(0, 5).includes(to)) cells[`${from} → ${to}`] = [...(cells[`${from} → ${to}`] ?? []), deal];
			});
			const found = stageFlow(company, A, B, P, scope);
			expect(Object.fromEntries(found.map((cell) => [`${cell.from} → ${cell.to}`, [...cell.deals]]))).toEqual(cells);
			for (const { deals: list, count, amount } of found) {
				expect(count).toBe(list.length);
				const worth = (deal: number) => {
					const state = at(ends[deal] ?? [], B) ?? at(ends[deal] ?? [], A);
					return state ? amountBaseOf(company, blockOf(company.history, deal), state.row, B) : 0;
				};
				expect(amount).toBe(list.reduce((sum, deal) => sum + worth(deal), 0));
			}
		}),
		{ numRuns: 200 },
	);
});
