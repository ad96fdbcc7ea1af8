import { expect, test } from "vitest";
import { day, makeCompany } from "../../../tests/kit/company";
import { sealOn } from "./seal";

test("a seal counts open deals and sums them by currency, and a later correction breaks it", () => {
	const deals = [
		{ versions: [{ at: "2026-10-05", amount: 100 }] },
		{ versions: [{ at: "2026-10-05", amount: 2000, currency: "JPY" }] },
		{ versions: [{ at: "2026-10-05", amount: null }] },
		{ versions: [{ at: "2026-10-05", amount: 7, stage: "Won" }] },
		{ versions: [{ at: "2026-10-20", amount: 7 }] },
	];
	const seal = sealOn(makeCompany(deals), day("2026-10-12"));
	expect(seal).toEqual({ count: 3, sums: { EUR: 10_000, JPY: 2000 } });
	const corrected = deals.map((deal, i) => (i === 0 ? { versions: [...deal.versions, { at: "2026-10-06", amount: 101 }] } : deal));
	expect(sealOn(makeCompany(corrected), day("2026-10-12"))).not.toEqual(seal);
});
