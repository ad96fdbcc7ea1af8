import fc from "fast-check";
import { expect, test } from "vitest";
import { Histogram } from "./histogram";
import { percentile } from "./percentile";

test("quantiles are those of the sorted numbers, whatever came and went before", () => {
	fc.assert(
		fc.property(
			fc.array(fc.integer({ min: -700, max: 3000 }), { maxLength: 60 }),
			fc.array(fc.integer({ min: -700, max: 3000 })),
			fc.double({ min: 0, max: 1, noNaN: true }),
			(kept, gone, p) => {
				const histogram = new Histogram();
				for (const value of [...gone, ...kept]) histogram.add(value, 1);
				for (const value of gone) histogram.add(value, -1);
				expect(histogram.size).toBe(kept.length);
				const [a, b] = [histogram.quantile(p), percentile(kept, p)];
				if (kept.length) expect(a).toBeCloseTo(b, 9);
				else expect(a).toBeNaN();
			},
		),
	);
});
