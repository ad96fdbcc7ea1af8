import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { survivalOf } from "./survival";

/** The same by its definition: at each end, of those who came so far, the share that goes on; and the bounds on the scale of log(−log). */
function plain(finished: readonly number[], unfinished: readonly number[]) {
	const z = 1.959964;
	let [share, sum] = [1, 0];
	const lines = [...new Set(finished)]
		.sort((a, b) => a - b)
		.map((length) => {
			const risk = [...finished, ...unfinished].filter((one) => one >= length).length;
			const ended = finished.filter((one) => one === length).length;
			share *= (risk - ended) / risk;
			if (risk > ended) sum += ended / (risk * (risk - ended));
			const theta = share > 0 && share < 1 ? (z * Math.sqrt(sum)) / Math.log(share) : 0;
			return { length, share, low: share ** Math.exp(-theta), high: share ** Math.exp(theta) };
		});
	const half = (value: (line: (typeof lines)[number]) => number) => lines.find((line) => value(line) <= 0.5 + 1e-9)?.length ?? null;
	return {
		curve: lines.map(({ length, share: left }) => ({ length, share: left })),
		median: half((line) => line.share),
		low: half((line) => Math.min(line.low, line.high)),
		high: half((line) => Math.max(line.low, line.high)),
	};
}

describe("a survival curve", () => {
	test("of a hand-made case: six of whom four finished", () => {
		// At 5 one of 6 ends, at 8 two of 5, at 15 one of the 2 that are left: 5/6, 5/6 · 3/5, and half of that.
		const { curve, median, interval } = survivalOf([5, 8, 8, 15], [12, 20]);
		expect(curve.map(({ length }) => length)).toEqual([5, 8, 15]);
		[5 / 6, 1 / 2, 1 / 4].forEach((share, i) => {
			expect(curve[i]?.share).toBeCloseTo(share, 12);
		});
		expect(median).toBe(8);
		// By Greenwood 1/30 at 5, 1/6 at 8 and 2/3 at 15, the lower bounds are .273, .111, .012 and the upper .975, .804, .646.
		expect(interval).toEqual({ low: 5, high: null });
	});
	test("doesn’t depend on the order in which lengths come, and ends at nobody where all finished", () => {
		expect(survivalOf([15, 8, 5, 8], [20, 12])).toEqual(survivalOf([5, 8, 8, 15], [12, 20]));
		expect(survivalOf([4, 4], [])).toEqual({ curve: [{ length: 4, share: 0 }], median: 4, interval: { low: 4, high: 4 } });
		expect(survivalOf([], [3, 9])).toEqual({ curve: [], median: null, interval: { low: null, high: null } });
		// Who is as long unfinished as somebody who finished was still there then.
		expect(survivalOf([4], [4]).curve).toEqual([{ length: 4, share: 0.5 }]);
		expect(survivalOf([4], [4]).median).toBe(4);
	});
	test("is what its definition says, however many finished", () => {
		const lengths = fc.array(fc.integer({ min: 0, max: 25 }), { maxLength: 25 });
		fc.assert(
			fc.property(lengths, lengths, (finished, unfinished) => {
				const [is, should] = [survivalOf(finished, unfinished), plain(finished, unfinished)];
				expect(is.curve.map(({ length }) => length)).toEqual(should.curve.map(({ length }) => length));
				is.curve.forEach(({ share }, i) => {
					expect(share).toBeCloseTo(should.curve[i]?.share ?? Number.NaN, 9);
				});
				expect([is.median, is.interval.low, is.interval.high]).toEqual([should.median, should.low, should.high]);
			}),
		);
	});
});
