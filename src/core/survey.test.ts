import fc from "fast-check";
import { describe, expect, test, vi } from "vitest";
import { companyAfter, inBlocks, type TestRules } from "@/../tests/kit/company";
import { allOf, day, makeCompany, type TestDeal } from "../../tests/kit/company";
import { histories, RATES as rates } from "../../tests/kit/histories";
import type { Company } from "./company";
import type { DealSeen } from "./dealSeen";
import { BLOCK_SIZE } from "./history/columns";
import { wonSpans } from "./history/won";
import type { Inspected } from "./inspect";
import { normsOn } from "./norms";
import type { SeenDeal } from "./seenDeal";
import { type Survey, surveyOn } from "./survey";

const TODAY = day("2026-11-24");

const anew = (company: Company): Inspected => surveyOn(company, TODAY);
/** What a process says after some of its deals changed, having looked before. */
function again(before: readonly TestDeal[], after: readonly TestDeal[], rules: TestRules = {}): Survey {
	const was = makeCompany([...before], rules);
	surveyOn(was, TODAY);
	const changed = new Set(after.flatMap((deal, i) => (deal === before[i] ? [] : [i])));
	return surveyOn(companyAfter(was, makeCompany([...after], rules), changed), TODAY);
}
/** Everything that is said of a deal, flags in their words. */
const toldOf = (seen: DealSeen | null) => seen && { ...allOf(seen), flags: seen.flags.map(({ code, severity, words }) => ({ code, severity, words })) };
const told = ({ norms, deals }: Inspected) => ({ norms, deals: deals.map(toldOf) });

/** Ten deals that were won, so that usual times are measured; one more changes them. */
const won = (n: number): TestDeal => ({
	created: "2026-06-01",
	versions: [
		{ at: "2026-06-01", stage: "Enquiry", amount: 100 * n, close: "2026-10-01" },
		{ at: `2026-0${7 + (n % 3)}-10`, stage: "Terms" },
		{ at: "2026-10-05", stage: "Won" },
	],
});
const WON = Array.from({ length: 10 }, (_, n) => won(n + 1));

describe("deals inspected again after some changed", () => {
	const one = histories.filter((deals) => deals.length > 1);
	test("are as if they were inspected anew: rows, flags, attention, norms", () => {
		fc.assert(
			fc.property(one, one, fc.nat(), fc.boolean(), (deals, others, at, apart) => {
				const all = (list: readonly TestDeal[]) => (apart ? inBlocks(list, WON) : inBlocks([...list, ...WON]));
				const changed = at % deals.length;
				const before = all(deals);
				const after = before.map((deal, i) => (i === changed ? (others[0] as TestDeal) : deal));
				expect(told(again(before, after, { rates }))).toEqual(told(anew(makeCompany(after, { rates }))));
			}),
			{ numRuns: 60 },
		);
	});
	test("are so with deals at rest, too: those that rest on, and those whose rest another flag has ended", () => {
		const rest = fc.record({
			from: fc.integer({ min: -40, max: 0 }),
			length: fc.integer({ min: 1, max: 60 }),
			flags: fc.subarray(["overdue", "stalled", "slipped", "no-next-step", "blank-fields", "gone-quiet"]),
		});
		fc.assert(
			fc.property(one, one, fc.nat(), fc.array(rest, { maxLength: 6 }), (deals, others, at, rests) => {
				const resting = deals.map((deal, i) => {
					const own = rests[i];
					return own ? { ...deal, rests: [{ from: TODAY + own.from, until: TODAY + own.from + own.length, flags: own.flags }] } : deal;
				});
				// What changes stands in another block: those at rest are only measured by other norms.
				const before = inBlocks(resting, [...deals, ...WON]);
				const changed = BLOCK_SIZE + (at % deals.length);
				const after = before.map((deal, i) => (i === changed ? (others[0] as TestDeal) : deal));
				const seen = again(before, after, { rates });
				expect(told(seen)).toEqual(told(anew(makeCompany(after, { rates }))));
				for (const deal of seen.deals) {
					if (!deal?.rest) continue;
					expect(deal.attention.level).toBe("calm");
					expect(deal.flags.every(({ code }) => deal.rest?.flags.includes(code))).toBe(true);
				}
			}),
			{ numRuns: 60 },
		);
	});
	test("keep what is theirs where nothing that they are measured by changed", () => {
		const deal = (): TestDeal => ({ versions: [{ at: "2026-11-02", close: "2026-12-01" }] });
		const before = makeCompany(inBlocks([deal()], [deal()]));
		const was = surveyOn(before, TODAY);
		const fresh = makeCompany(inBlocks([deal()], [{ ...deal(), activities: [["2026-11-20", "in"]] }]));
		const is = surveyOn(companyAfter(before, fresh, new Set([BLOCK_SIZE])), TODAY);
		expect(is.blocks[0]).toBe(was.blocks[0]);
		expect(is.norms.usual).toBe(was.norms.usual);
		expect(is.deals[BLOCK_SIZE]?.flags.map((flag) => flag.code)).toContain("reply-owed");
	});
	test("a win changes the usual times, and with them the flags of deals that didn’t change", () => {
		const slow: TestDeal = { created: "2026-05-01", versions: [{ at: "2026-05-01", stage: "Terms", close: "2026-12-30" }] };
		const before = inBlocks([slow], WON);
		const late = { ...won(1), versions: [...won(1).versions.slice(0, 2), { at: "2027-01-05", stage: "Won" }] };
		const after = before.map((deal, i) => (i === BLOCK_SIZE ? late : deal));
		expect(told(again(before, after))).toEqual(told(anew(makeCompany(after))));
	});
	test("what was found of wins stays the same object while no deal’s wins change", () => {
		const before = makeCompany(inBlocks([won(1)], WON));
		const spans = wonSpans(before);
		const touched = companyAfter(before, makeCompany(inBlocks([{ ...won(1), activities: [["2026-11-20", "in"]] }], WON)), new Set([0]));
		expect(wonSpans(touched)).toBe(spans);
		const other = companyAfter(touched, makeCompany(inBlocks([won(30)], WON)), new Set([0]));
		expect(wonSpans(other)).not.toBe(spans);
		expect(normsOn(other, TODAY)).toEqual(normsOn(makeCompany(inBlocks([won(30)], WON)), TODAY));
	});
});

test("a closed deal that another copy of the program’s code has seen is one all the same", async () => {
	const company = makeCompany([{ versions: [{ at: "2026-11-02" }, { at: "2026-11-10", stage: "Won" }] }, { versions: [{ at: "2026-11-02", amount: 10 }] }]);
	const norms = normsOn(company, TODAY);
	// Each bundle of the server has the core's classes for itself, and they share what is kept.
	vi.resetModules();
	const other = await import("./inspect");
	const seen = other.inspect(company, 0, norms) as SeenDeal;
	const again = seen.by({ ...company, norms: { ...norms, medianAmount: norms.medianAmount + 5 } }, "medianAmount");
	expect([again.status, again.qualification, again.path]).toEqual([seen.status, seen.qualification, seen.path]);
	expect(seen.by({ ...company, norms }, "usual")).toBe(seen);
});
