import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { COLUMNS, type Nudge, nudge, type Placed, settle } from "@/features/boards/table/layout";

const tile = (id: string, x: number, y: number, w: number, h: number): Placed => ({ id, x, y, w, h });
const overlap = (tiles: readonly Placed[]) =>
	tiles.some((a) => tiles.some((b) => a.id < b.id && a.x < b.x + b.w && b.x < a.x + a.w && a.y < b.y + b.h && b.y < a.y + a.h));
const some = fc
	.array(fc.record({ x: fc.integer({ min: -3, max: 15 }), y: fc.nat(20), w: fc.integer({ min: 0, max: 14 }), h: fc.integer({ min: 0, max: 9 }) }), {
		minLength: 1,
		maxLength: 12,
	})
	.map((list) => list.map((one, i) => ({ id: `t${i}`, ...one })));

describe("a board’s grid", () => {
	test("lets tiles rise, and never on one another", () => {
		expect(settle([tile("a", 0, 5, 6, 4), tile("b", 6, 9, 6, 2), tile("c", 0, 30, 12, 2)])).toEqual([
			tile("a", 0, 0, 6, 4),
			tile("b", 6, 0, 6, 2),
			tile("c", 0, 4, 12, 2),
		]);
		fc.assert(
			fc.property(some, (tiles) => {
				const settled = settle(tiles);
				expect(overlap(settled)).toBe(false);
				expect(settled.map(({ id }) => id)).toEqual(tiles.map(({ id }) => id));
				for (const one of settled) expect(one.x >= 0 && one.y >= 0 && one.x + one.w <= COLUMNS && one.w >= 1 && one.h >= 1).toBe(true);
				expect(settle(settled)).toEqual(settled);
			}),
		);
	});
	test("is arranged step by step: a tile changes places with the one above or below it, and keeps within the grid", () => {
		const two = [tile("a", 0, 0, 6, 3), tile("b", 0, 3, 6, 2)];
		expect(nudge(two, "b", "up").map(({ id, y }) => [id, y])).toEqual([
			["a", 2],
			["b", 0],
		]);
		expect(nudge(two, "a", "down").map(({ id, y }) => [id, y])).toEqual([
			["a", 2],
			["b", 0],
		]);
		expect(nudge(two, "a", "left")).toEqual(two);
		expect(nudge(two, "a", "wider")[0]).toMatchObject({ w: 7 });
		expect(nudge([tile("a", 0, 0, 12, 3)], "a", "wider")[0]).toMatchObject({ x: 0, w: 12 });
		expect(nudge(two, "nobody", "up")).toEqual(two);
		fc.assert(
			fc.property(some, fc.constantFrom<Nudge>("left", "right", "up", "down", "wider", "narrower", "taller", "shorter"), (tiles, how) => {
				expect(overlap(nudge(settle(tiles), "t0", how))).toBe(false);
			}),
		);
	});
});
