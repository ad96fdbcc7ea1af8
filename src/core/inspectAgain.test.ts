import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { day, makeCompany, type TestDeal } from "../../tests/kit/company";
import { histories, RATES as rates } from "../../tests/kit/histories";
import type { Company } from "./company";
import { carryWon } from "./history/won";
import { type DealSeen, type Inspected, inspect, inspectAgain, normsOn } from "./inspect";

const TODAY = day("2026-11-24");

const anew = (company: Company): Inspected => {
	const norms = normsOn(company, TODAY);
	return { norms, deals: company.deals.map((_, deal) => inspect(company, deal, norms)) };
};
/** Everything that is said of a deal, flags in their words. */
const told = (seen: DealSeen | null) => seen && { ...seen, flags: seen.flags.map(({ code, severity, words }) => ({ code, severity, words })) };
const all = ({ norms, deals }: Inspected) => ({ norms, deals: deals.map(told) });

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
	test("are as if they were inspected anew: rows, flags, attention, norms", () => {
		const one = histories.filter((deals) => deals.length > 1);
		fc.assert(
			fc.property(one, one, fc.nat(), (deals, others, at) => {
				const changed = at % deals.length;
				const before = makeCompany([...deals, ...WON], { rates });
				const after = makeCompany([...deals.map((deal, i) => (i === changed ? (others[0] as TestDeal) : deal)), ...WON], { rates });
				expect(all(inspectAgain(after, anew(before), new Set([changed])))).toEqual(all(anew(after)));
			}),
			{ numRuns: 60 },
		);
	});
	test("are so with deals at rest, too: those that rest on, and those whose rest another flag has ended", () => {
		const one = histories.filter((deals) => deals.length > 1);
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
				const changed = at % deals.length;
				const before = makeCompany([...resting, ...WON], { rates });
				const after = makeCompany([...resting.map((deal, i) => (i === changed ? (others[0] as TestDeal) : deal)), ...WON], { rates });
				const again = inspectAgain(after, anew(before), new Set([changed]));
				expect(all(again)).toEqual(all(anew(after)));
				for (const seen of again.deals) {
					if (!seen?.rest) continue;
					expect(seen.attention.level).toBe("calm");
					expect(seen.flags.every(({ code }) => seen.rest?.flags.includes(code))).toBe(true);
				}
			}),
			{ numRuns: 60 },
		);
	});
	test("keep what is theirs where nothing that they are measured by changed", () => {
		const deals: TestDeal[] = [{ versions: [{ at: "2026-11-02", close: "2026-12-01" }] }, { versions: [{ at: "2026-11-02", close: "2026-12-01" }] }];
		const before = anew(makeCompany(deals));
		const again = inspectAgain(makeCompany([deals[0] as TestDeal, { ...(deals[1] as TestDeal), activities: [["2026-11-20", "in"]] }]), before, new Set([1]));
		expect(again.deals[0]).toBe(before.deals[0]);
		expect(again.norms.usual).toBe(before.norms.usual);
		expect(again.deals[1]?.flags.map((flag) => flag.code)).toContain("reply-owed");
	});
	test("a win changes the usual times, and with them the flags of deals that didn’t change", () => {
		const slow: TestDeal = { created: "2026-05-01", versions: [{ at: "2026-05-01", stage: "Terms", close: "2026-12-30" }] };
		const before = makeCompany([slow, ...WON]);
		const after = makeCompany([slow, { ...won(1), versions: [...won(1).versions.slice(0, 2), { at: "2027-01-05", stage: "Won" }] }, ...WON.slice(1)]);
		expect(all(inspectAgain(after, anew(before), new Set([1])))).toEqual(all(anew(after)));
	});
	test("what was found of wins goes along to the next history, and over one that nobody looked at", () => {
		const [first, second, third] = [0, 1, 2].map((n) => makeCompany(WON.map((deal, i) => (i === n ? won(30) : deal)))) as [Company, Company, Company];
		anew(first);
		carryWon(first.history, second.history, new Set([0, 1]));
		carryWon(second.history, third.history, new Set([1, 2]));
		expect(normsOn(third, TODAY)).toEqual(normsOn(makeCompany(WON.map((deal, i) => (i === 2 ? won(30) : deal))), TODAY));
	});
});
