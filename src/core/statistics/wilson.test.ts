import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { LEAST, shareOf } from "./wilson";

const Z = 1.959964;

describe("a share", () => {
	test("has the interval that tables give", () => {
		const bounds = (k: number, n: number) => [shareOf(k, n).low?.toFixed(4), shareOf(k, n).high?.toFixed(4)];
		expect(bounds(7, 10)).toEqual(["0.3968", "0.8922"]);
		expect(bounds(0, 10)).toEqual(["0.0000", "0.2775"]);
		expect(bounds(10, 10)).toEqual(["0.7225", "1.0000"]);
		expect(bounds(45, 100)).toEqual(["0.3561", "0.5476"]);
	});
	test("of fewer than five isn’t said, of five it is", () => {
		expect(LEAST).toBe(5);
		expect(shareOf(2, 4)).toEqual({ k: 2, n: 4, share: null, low: null, high: null });
		expect(shareOf(2, 5)).toMatchObject({ k: 2, n: 5, share: 0.4 });
	});
	test("lies where a true share p would be Z deviations away: (k/n − p)² = Z² p (1 − p) / n at both ends", () => {
		fc.assert(
			fc.property(fc.integer({ min: 5, max: 3000 }), fc.double({ min: 0, max: 1, noNaN: true }), (n, part) => {
				const k = Math.round(part * n);
				const { low, high, share } = shareOf(k, n);
				for (const p of [low as number, high as number]) expect((k / n - p) ** 2).toBeCloseTo((Z ** 2 * p * (1 - p)) / n, 9);
				expect(low).toBeLessThanOrEqual((share as number) + 1e-9);
				expect(high).toBeGreaterThanOrEqual((share as number) - 1e-9);
				expect(low).toBeGreaterThanOrEqual(0);
				expect(high).toBeLessThanOrEqual(1);
			}),
		);
	});
});
