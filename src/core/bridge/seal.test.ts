import { expect, test } from "vitest";
import { at, makeCompany } from "../../../tests/kit/company";
import { fits, sealAt } from "./seal";

test("a seal counts open deals and sums them by currency, and a later correction breaks it", () => {
	const deals = [
		{ versions: [{ at: "2026-10-05", amount: 100 }] },
		{ versions: [{ at: "2026-10-05", amount: 2000, currency: "JPY" }] },
		{ versions: [{ at: "2026-10-05", amount: null }] },
		{ versions: [{ at: "2026-10-05", amount: 7, stage: "Won" }] },
		{ versions: [{ at: "2026-10-20", amount: 7 }] },
	];
	const seal = sealAt(makeCompany(deals), at("2026-10-12 12:00"));
	expect(seal).toEqual({ count: 3, sums: { EUR: 10_000, JPY: 2000 } });
	const corrected = deals.map((deal, i) => (i === 0 ? { versions: [...deal.versions, { at: "2026-10-06", amount: 101 }] } : deal));
	const now = sealAt(makeCompany(corrected), at("2026-10-12 12:00"));
	expect(fits(seal, now)).toBe(false);
	expect(fits(seal, seal)).toBe(true);
});

test("a seal is of an instant: what happens later on the same day doesn’t break it", () => {
	const before = [{ versions: [{ at: "2026-10-12 09:00", amount: 100 }] }];
	const after = [
		{
			versions: [
				{ at: "2026-10-12 09:00", amount: 100 },
				{ at: "2026-10-12 12:01", amount: 5 },
			],
		},
	];
	const of = (deals: typeof before) => sealAt(makeCompany(deals), at("2026-10-12 12:00"));
	expect(fits(of(before), of(after))).toBe(true);
	expect(sealAt(makeCompany(before), at("2026-10-12 08:59"))).toEqual({ count: 0, sums: {} });
});
