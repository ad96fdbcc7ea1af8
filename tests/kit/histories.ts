import fc from "fast-check";
import { STAGES, type TestDeal } from "./company";

/** One state of a deal, with every kind of place, money and date. */
export const version = fc.record({
	stage: fc.constantFrom(...STAGES, "removed"),
	amount: fc.option(fc.integer({ min: 0, max: 5_000_000 }), { nil: null }),
	currency: fc.constantFrom("EUR", "GBP", "JPY", "KWD"),
	close: fc.option(fc.constantFrom("2026-09-15", "2026-10-20", "2026-12-05", "2027-01-10"), { nil: null }),
	owner: fc.option(fc.integer({ min: 0, max: 3 }), { nil: null }),
});
/** Histories of up to twelve deals in November 2026, a few of their versions on one day. */
export const histories = fc.array(fc.array(version, { minLength: 1, maxLength: 5 }), { maxLength: 12 }).map((deals): TestDeal[] =>
	deals.map((versions, d) => ({
		created: "2026-10-25",
		versions: versions.map((v, i) => ({ ...v, at: `2026-11-${String(1 + ((d * 3 + i * 7) % 4) + i * 6).padStart(2, "0")} 1${i}:00` })),
	})),
);
export const RATES: [string, string, string][] = [
	["GBP", "2026-01-01", "1.1637"],
	["JPY", "2026-01-01", "0.00613"],
	["KWD", "2026-01-01", "2.8191"],
];
