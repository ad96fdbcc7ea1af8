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

test("a number at the very end of the room, and one just beyond it, are where they belong", () => {
	for (const values of [
		[0, 511],
		[0, 512],
		[-1, 0, 511],
		[512, 513],
		[5, 5, 5],
		[0, 1024, 2048],
	]) {
		const histogram = new Histogram();
		for (const value of values) histogram.add(value, 1);
		for (const p of [0, 0.25, 0.5, 0.75, 1]) expect(histogram.quantile(p)).toBeCloseTo(percentile(values, p), 9);
	}
});

test("percentiles of nothing are no number", () => {
	expect(percentile([], 0.5)).toBeNaN();
});
