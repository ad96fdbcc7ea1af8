import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { at, day, makeCompany, STAGES, type TestDeal, type TestVersion } from "../../../tests/kit/company";
import { through } from "../../../tests/kit/steps";
import type { Company } from "../company";
import { CATEGORIES, type Category } from "../history/columns";
import { inspect } from "../inspect";
import { normsOn } from "../norms";
import { groundSteps } from "../outlook/outlook";
import { type Day, formatDay } from "../time/day";
import { closedWithin } from "./closed";
import { dueIn } from "./due";
import { discountOf, lateChanges, valuePath } from "./priced";
import { openDaysWithin, pushesWithin } from "./pushes";
import { daysBefore, lastPeriods } from "./quarters";
import { accuracyOf } from "./records";
import { timeInStage } from "./timeInStage";

// The same figures by plain loops over raw versions, on histories that nobody chose: reopened deals, deals of one version
// only, blanks, stages entered twice, deals taken off.

const TODAY = day("2026-11-24");
const FIRST = day("2025-01-02");

/** What a deal is after each of its versions, each taking over what it doesn't say. */
type State = Required<Omit<TestVersion, "next">>;
function statesOf(deal: TestDeal): State[] {
	let state: State = { at: "", stage: "Enquiry", amount: 1000, currency: "EUR", close: null, owner: 0, category: "pipeline" };
	return deal.versions.map((version) => {
		state = { ...state, ...version };
		return state;
	});
}
const dayOf = (state: State): Day => Math.floor(at(state.at) / 86_400_000);
/** How a deal stood at the end of a day. */
const on = (deal: TestDeal, when: Day): State | undefined => statesOf(deal).findLast((state) => dayOf(state) <= when);
const minor = (state: State) => Math.round((state.amount ?? 0) * 100);
const isOpen = (state: State | undefined): state is State => state !== undefined && STAGES.indexOf(state.stage) >= 0 && STAGES.indexOf(state.stage) < 5;
const closeOf = (state: State) => (state.close === null ? null : day(state.close));

const arbDeal: fc.Arbitrary<TestDeal> = fc
	.record({
		start: fc.integer({ min: 0, max: 600 }),
		steps: fc.array(
			fc.record({
				after: fc.integer({ min: 0, max: 45 }),
				stage: fc.constantFrom(...STAGES, "Won", "Terms", "Proposal", "removed"),
				amount: fc.option(fc.integer({ min: 1, max: 9000 }), { freq: 6 }),
				close: fc.option(fc.integer({ min: -20, max: 160 }), { freq: 6 }),
				owner: fc.constantFrom(0, 1, 2, null),
				category: fc.constantFrom(...CATEGORIES),
			}),
			{ minLength: 1, maxLength: 9 },
		),
	})
	.map(({ start, steps }) => {
		let when = FIRST + start;
		return {
			created: formatDay(when),
			versions: steps.map(({ after, close, ...rest }) => {
				when += after;
				return { at: formatDay(when), close: close === null ? null : formatDay(when + close), ...rest, category: rest.category as Category };
			}),
		} as TestDeal;
	});
const arbDeals = fc.array(arbDeal, { minLength: 5, maxLength: 40 });
const survey = (company: Company, when: Day) => {
	const norms = normsOn(company, when);
	return { norms, deals: company.deals.map((_, deal) => inspect(company, deal, norms)) };
};
/** Working days after one day up to another, one by one. */
const worked = (company: Company, from: Day, to: Day) => {
	let count = 0;
	for (let one = from + 1; one <= to; one++) if (company.rules.calendar.isWorking(one)) count++;
	return count;
};
const RUNS = { numRuns: 40 };

describe("by plain loops over raw versions", () => {
	test("what was due and what came of it, and how commits held, are the same", () => {
		fc.assert(
			fc.property(arbDeals, fc.integer({ min: 0, max: 40 }), (deals, lead) => {
				const company = makeCompany(deals);
				const looked = lastPeriods(company, "quarter", TODAY, 4, lead);
				const plain = { k: 0, n: 0, amountK: 0, amountN: 0 };
				for (const { period, day: when } of looked) {
					expect(worked(company, when, period.end)).toBe(lead);
					const due = deals.flatMap((deal, i) => {
						const then = on(deal, when);
						const close = then && closeOf(then);
						if (!isOpen(then) || close === null || close === undefined || close < period.start || close > period.end) return [];
						return [{ deal: i, then, won: on(deal, period.end)?.stage === "Won" }];
					});
					const found = dueIn(company, { period, day: when }).map(({ seen, won }) => [seen.deal, won] as const);
					expect([...found].sort(([a], [b]) => a - b)).toEqual(due.map(({ deal, won }) => [deal, won]));
					for (const { then, won } of due) {
						if (then.category !== "commit" || (then.owner !== 0 && then.owner !== 1)) continue;
						plain.n++;
						plain.amountN += minor(then);
						if (!won) continue;
						plain.k++;
						plain.amountK += minor(then);
					}
				}
				const { count, amount } = accuracyOf(company, looked, "commit", new Set([0, 1]));
				const said = plain.n >= 10;
				expect({ k: count.k, n: count.n, amountK: amount.k, amountN: amount.n }).toEqual(said ? plain : { ...plain, amountK: null, amountN: null });
			}),
			RUNS,
		);
	});
	test("visits to stages of a year, finished and not, are as long", () => {
		fc.assert(
			fc.property(arbDeals, (deals) => {
				const company = makeCompany(deals);
				const plain: string[] = [];
				deals.forEach((deal, i) => {
					let place: string | null = null;
					let from = 0;
					for (let when = FIRST; when <= TODAY; when++) {
						const state = on(deal, when);
						const now = isOpen(state) ? state.stage : null;
						if (now === place) continue;
						if (place !== null && from > TODAY - 365) plain.push(`${i} ${place} ${worked(company, from, when)} finished`);
						place = now;
						from = when;
					}
					if (place !== null && from > TODAY - 365) plain.push(`${i} ${place} ${worked(company, from, TODAY)} running`);
				});
				const found = timeInStage(company, TODAY, () => ["all"]).flatMap(({ stage, visits }) =>
					visits.map(({ deal, length, finished }) => `${deal} ${STAGES[stage]} ${length} ${finished ? "finished" : "running"}`),
				);
				expect(found.sort()).toEqual(plain.sort());
			}),
			RUNS,
		);
	});
	test("what was closed within a year, from which stage, and what it was worth on the way", () => {
		fc.assert(
			fc.property(arbDeals, (deals) => {
				const company = makeCompany(deals);
				const closed = closedWithin(company, survey(company, TODAY), null, TODAY).sort((a, b) => a.seen.deal - b.seen.deal);
				const plain = deals.flatMap((deal, i) => {
					const now = on(deal, TODAY);
					if (now?.stage !== "Won" && now?.stage !== "Lost") return [];
					let since = TODAY;
					while (on(deal, since - 1)?.stage === now.stage) since--;
					if (since <= TODAY - 365) return [];
					const last = Array.from({ length: since - FIRST }, (_, n) => on(deal, since - 1 - n)).find(isOpen);
					return [{ deal: i, won: now.stage === "Won", day: since, from: last ? STAGES.indexOf(last.stage) : -1 }];
				});
				expect(closed.map(({ seen, won, day: when, from }) => ({ deal: seen.deal, won, day: when, from }))).toEqual(plain);
				const won = closed.filter((one) => one.won);
				const path = valuePath(company, won, TODAY);
				for (const [stage, { n }] of path.stages)
					expect(n).toBe(
						won.filter(({ seen, day: when }) =>
							Array.from({ length: when - FIRST }, (_, i) => on(deals[seen.deal] as TestDeal, FIRST + i)).some(
								(s) => isOpen(s) && STAGES.indexOf(s.stage) === stage,
							),
						).length,
					);
				for (const { closed: one, before, after } of lateChanges(company, won, TODAY)) {
					const deal = deals[one.seen.deal] as TestDeal;
					expect(before).toBe(minor(on(deal, daysBefore(company.rules.calendar, one.day, 10)) as State));
					expect(after).toBe(minor(on(deal, one.day) as State));
				}
			}),
			RUNS,
		);
	});
	test("moves of close dates to a later day, and which of them were made at a month’s end", () => {
		fc.assert(
			fc.property(arbDeals, fc.integer({ min: 30, max: 700 }), (deals, days) => {
				const company = makeCompany(deals);
				const plain: string[] = [];
				deals.forEach((deal, i) => {
					let before: number | null = null;
					for (let when = FIRST; when <= TODAY; when++) {
						const state = statesOf(deal).findLast((one) => dayOf(one) === when);
						const close = state && closeOf(state);
						if (!state || close === null || close === undefined) continue;
						const { year, month } = { year: Number(formatDay(when).slice(0, 4)), month: Number(formatDay(when).slice(5, 7)) };
						const end = Math.floor(Date.UTC(year, month, 0) / 86_400_000);
						if (isOpen(state) && before !== null && close > before && when > TODAY - days) plain.push(`${i} ${when} ${worked(company, when, end) < 3}`);
						before = close;
					}
				});
				const open = new Map<number, number>();
				for (const deal of deals)
					for (let when = TODAY - days + 1; when <= TODAY; when++) {
						const state = on(deal, when);
						if (isOpen(state)) open.set(state.owner ?? -1, (open.get(state.owner ?? -1) ?? 0) + 1);
					}
				expect(new Map([...openDaysWithin(company, TODAY, days)].sort())).toEqual(new Map([...open].sort()));
				const found = pushesWithin(company, TODAY, days).sort((a, b) => a.deal - b.deal);
				expect(found.map((one) => `${one.deal} ${one.day} ${one.monthEnd}`)).toEqual(plain);
			}),
			RUNS,
		);
	});
	test("the outlook: comparables of both kinds, the steps of each chance, what is new, and the mean that they make", () => {
		fc.assert(
			fc.property(fc.array(arbDeal, { minLength: 30, maxLength: 60 }), fc.constantFrom(null, new Set([0, 1])), (deals, scope) => {
				const company = makeCompany(deals);
				const period = { start: day("2026-10-01"), end: day("2026-12-31") };
				const seen = survey(company, TODAY);
				const ground = through(groundSteps(company, seen, period, scope, TODAY));
				if (!ground) return;
				const left = worked(company, TODAY, period.end);
				const ours = (state: State | undefined) => state !== undefined && (scope === null || (state.owner !== null && scope.has(state.owner)));
				/** the first day of the run of days on which it stands won */
				const wonSince = (deal: TestDeal, when: Day) => {
					let since = when;
					while (on(deal, since - 1)?.stage === "Won") since--;
					return since;
				};
				const isWon = (deal: TestDeal, when: Day, { start, end }: { start: Day; end: Day }) =>
					on(deal, when)?.stage === "Won" && wonSince(deal, when) >= start && wonSince(deal, when) <= end;
				const past = lastPeriods(company, "quarter", TODAY, 8, left).reverse();
				const median = (when: Day) => {
					const amounts = deals.flatMap((deal) => (isOpen(on(deal, when)) ? [minor(on(deal, when) as State)] : [])).sort((x, y) => x - y);
					const half = (amounts.length - 1) / 2;
					return ((amounts[Math.floor(half)] ?? 0) + (amounts[Math.ceil(half)] ?? 0)) / 2;
				};
				const valuesOf = (i: number, when: Day, { start, end }: { start: Day; end: Day }) => {
					const state = on(deals[i] as TestDeal, when) as State;
					const close = closeOf(state);
					const stage = String(STAGES.indexOf(state.stage));
					if (close !== null && close >= start && close <= end) {
						const own = inspect(company, i, normsOn(company, when, company.rules.attention));
						const aging = own?.flags.some(({ code }) => code === "aging-stage") ? "aging" : "moving";
						return ["due", stage, state.category ?? "pipeline", aging, own?.ownLevel ?? ""];
					}
					const soon = close !== null && close > end && worked(company, when, close) <= worked(company, when, end) + 22;
					const place = close === null ? "none" : close < start ? "before" : soon ? "next" : "later";
					return ["elsewhere", place, stage, minor(state) > median(when) ? "large" : "small"];
				};
				const lookedAt = past.map(({ period: own, day: when }) => {
					const open = deals.flatMap((deal, i) =>
						isOpen(on(deal, when))
							? [{ i, values: valuesOf(i, when, own), won: isWon(deal, own.end, own), was: minor(on(deal, when) as State), ours: ours(on(deal, when)) }]
							: [],
					);
					const fresh = deals.filter((deal, i) => isWon(deal, own.end, own) && !open.some((one) => one.i === i) && !isWon(deal, when, own));
					return { own, when, open, fresh };
				});
				const all = lookedAt.flatMap(({ open, own }) => open.map((one) => ({ ...one, end: own.end })));
				for (const one of ground.deals) {
					const values = valuesOf(one.deal, TODAY, period);
					const alike = all.filter((other) => other.values[0] === values[0]);
					let p = 0;
					for (let i = 0; i < values.length; i++) {
						const same = alike.filter((other) => values.slice(0, i + 1).every((value, n) => other.values[n] === value));
						const won = same.filter((other) => other.won).length;
						expect(one.steps[i]).toEqual({ n: same.length, won });
						p =
							i > 0
								? (won + 8 * p) / (same.length + 8)
								: values[0] === "due"
									? (won + 1) / (same.length + 2)
									: same.length
										? (won + 0.5) / (same.length + 1)
										: 0;
					}
					expect(one.chance).toBeCloseTo(p, 12);
				}
				expect(ground.deals.map(({ deal }) => deal).sort((x, y) => x - y)).toEqual(
					deals.flatMap((deal, i) => (isOpen(on(deal, TODAY)) && ours(on(deal, TODAY)) ? [i] : [])),
				);
				const won = deals.reduce((sum, deal) => sum + (isWon(deal, TODAY, period) && ours(on(deal, TODAY)) ? minor(on(deal, TODAY) as State) : 0), 0);
				expect(ground.won).toBe(won);
				const hits = all.filter((one) => one.won && one.values[0] === "due");
				const was = hits.reduce((sum, one) => sum + one.was, 0);
				const came = hits.reduce((sum, one) => sum + minor(on(deals[one.i] as TestDeal, one.end) as State), 0);
				expect(ground.learnt.ratio).toBeCloseTo(was ? came / was : 1, 12);
				const fresh = lookedAt.flatMap(({ fresh: some, own }) => some.map((deal) => on(deal, own.end) as State));
				const own = fresh.filter(ours);
				const n = lookedAt.length;
				const rate = (own.length + (fresh.length / n) * (all.filter((one) => one.ours).length / all.length)) / (n + 1);
				expect(ground.learnt.fresh.rate).toBeCloseTo(rate, 12);
				expect(ground.learnt.fresh.swings.map((g) => g.toFixed(9))).toEqual(
					lookedAt.map(({ fresh: some }) => ((some.length + 1) / (fresh.length / n + 1)).toFixed(9)),
				);
				const drawn = own.length >= 8 ? own : fresh;
				const mean = drawn.length ? drawn.reduce((sum, state) => sum + minor(state), 0) / drawn.length : 0;
				expect(ground.mean).toBeCloseTo(
					won + rate * mean + ground.deals.reduce((sum, { chance, amount }) => sum + chance * amount * ground.learnt.ratio, 0),
					3,
				);
				expect(ground.won + ground.due + ground.elsewhere + ground.fresh).toBeCloseTo(ground.mean, 3);
			}),
			{ numRuns: 12 },
		);
	});
});

describe("a discount", () => {
	test("is what is missing of the list, whatever the lines are split into; nothing without a list", () => {
		const line = { deal: 0, quantity: 2, list: 100, unit: 90 };
		expect(discountOf([line])).toBeCloseTo(0.1);
		expect(discountOf([line, { ...line, unit: 50 }])).toBeCloseTo(0.3);
		expect(
			discountOf([
				{ ...line, quantity: 1 },
				{ ...line, quantity: 1 },
			]),
		).toBeCloseTo(0.1);
		expect(discountOf([{ ...line, list: 0 }])).toBeNull();
		expect(discountOf([])).toBeNull();
	});
});
