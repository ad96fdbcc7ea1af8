import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { layoutOf, type PictureDeal, pressing, within } from "@/features/patterns/table/dealPicture";
import { pressingWords } from "@/features/patterns/ui/pressingWords";
import { day } from "../kit/company";

const TODAY = day("2026-11-24");
const deal = (id: string, change: Partial<PictureDeal> = {}): PictureDeal => ({
	id,
	name: `Deal ${id}`,
	account: "A",
	owner: "O",
	amount: 100_00,
	close: "2026-12-10",
	level: "calm",
	chance: 0.5,
	by: "stage",
	...change,
});
const place = (deals: PictureDeal[], width = 1000) => {
	const layout = layoutOf(deals, TODAY, width, 320);
	return { ...layout, of: (id: string) => layout.spots.find((spot) => spot.deal.id === id) as NonNullable<(typeof layout.spots)[number]> };
};

describe("the picture of open deals", () => {
	test("has later ones to the right, likelier ones above, and areas as amounts", () => {
		const { of } = place([
			deal("soon", { close: "2026-11-26" }),
			deal("late", { close: "2026-12-20" }),
			deal("sure", { chance: 0.9 }),
			deal("unsure", { chance: 0.1 }),
			deal("four", { amount: 40_000_00 }),
			deal("one", { amount: 10_000_00 }),
		]);
		expect(of("soon").x).toBeLessThan(of("late").x);
		expect(of("sure").y).toBeLessThan(of("unsure").y);
		expect(of("four").r / of("one").r).toBeCloseTo(2, 6);
		expect(place([deal("large", { amount: 9 }), deal("small", { amount: 1 })]).spots.map((spot) => spot.deal.id)).toEqual(["large", "small"]);
	});
	test("gives what is overdue, far off or without a date a strip of its own, and no strip where there is none", () => {
		expect(place([deal("a")]).strips).toEqual([]);
		const { of, strips, weeks } = place([deal("a"), deal("was", { close: "2026-11-23" }), deal("far", { close: "2028-01-01" }), deal("none", { close: null })]);
		expect(strips.map(({ key }) => key)).toEqual(["overdue", "later", "undated"]);
		for (const [id, strip] of [
			["was", strips[0]],
			["far", strips[1]],
			["none", strips[2]],
		] as const) {
			expect(of(id).x).toBeGreaterThan(strip?.from ?? 0);
			expect(of(id).x).toBeLessThan(strip?.to ?? 0);
		}
		expect(weeks).toHaveLength(26);
	});
	test("holds every deal, whatever its date, amount and chance, at any width", () => {
		const anyDeal = fc.record({
			close: fc.option(
				fc.integer({ min: -400, max: 800 }).map((days) => new Date((TODAY + days) * 86_400_000).toISOString().slice(0, 10)),
				{ nil: null },
			),
			amount: fc.integer({ min: -5, max: 1e13 }),
			chance: fc.double({ min: 0, max: 1, noNaN: true }),
		});
		fc.assert(
			fc.property(fc.array(anyDeal, { minLength: 1, maxLength: 40 }), fc.integer({ min: 320, max: 2560 }), (list, width) => {
				const { spots, plot } = layoutOf(
					list.map((one, i) => deal(String(i), one)),
					TODAY,
					width,
					320,
				);
				expect(spots).toHaveLength(list.length);
				for (const { x, y, r } of spots) {
					expect(x).toBeGreaterThanOrEqual(plot.left);
					expect(x).toBeLessThanOrEqual(plot.right);
					expect(y).toBeGreaterThanOrEqual(plot.top - 1e-6);
					expect(y).toBeLessThanOrEqual(plot.bottom + 1e-6);
					expect(r).toBeGreaterThan(0);
				}
				const all = within(spots, { x: 0, y: 0 }, { x: width, y: 320 });
				expect(all).toHaveLength(list.length);
			}),
		);
	});
	test("a rectangle holds what lies in it, from whichever corner it is drawn", () => {
		const { spots, of } = place([deal("in"), deal("out", { chance: 0.95 })]);
		const { x, y } = of("in");
		const [a, b] = [
			{ x: x - 5, y: y - 5 },
			{ x: x + 5, y: y + 5 },
		];
		expect([within(spots, a, b), within(spots, b, a), within(spots, { x: a.x, y: b.y }, { x: b.x, y: a.y })]).toEqual([["in"], ["in"], ["in"]]);
	});
});

describe("what it says at a glance", () => {
	const list = [
		deal("big", { amount: 500_00, chance: 0.2, close: "2026-12-18", name: "Tunnel" }),
		deal("was", { amount: 300_00, chance: 0.3, close: "2026-11-02" }),
		deal("far", { amount: 300_00, chance: 0.1, close: "2026-12-23" }),
		deal("sure", { amount: 300_00, chance: 0.4 }),
		deal("small", { amount: 10_00, chance: 0.05 }),
	];
	test("large ones that close within four weeks or should have, with little chance", () => {
		expect(pressing(list, TODAY).map(({ id }) => id)).toEqual(["big"]);
		expect(pressing([...list.slice(0, 2), deal("x", { amount: 400_00, close: null, chance: 0.1 })], TODAY).map(({ id }) => id)).toEqual(["big"]);
		expect(pressing([deal("a", { amount: 0, chance: 0 })], TODAY)).toEqual([]);
		expect(pressing([deal("edge", { close: "2026-12-22", chance: 0.399 })], TODAY)).toHaveLength(1);
		expect(pressing([deal("edge", { close: "2026-12-23", chance: 0.399 })], TODAY)).toHaveLength(0);
	});
	test("is one sentence, with at most three names", () => {
		expect(pressingWords([], "2026-11-24", "EUR")).toBe("None of the largest deals closes within 4 weeks, or was to, with a chance below 40%.");
		expect(pressingWords(pressing(list, TODAY), "2026-11-24", "EUR")).toBe(
			"Of the largest deals, 1 closes within 4 weeks, or was to, with a chance below 40%: Tunnel (€500, 18 Dec, 20%).",
		);
		expect(
			pressingWords(
				[1, 2, 3, 4, 5].map((i) => deal(String(i))),
				"2026-11-24",
				"EUR",
			),
		).toMatch(/5 close within.*Deal 3 \(€100, 10 Dec, 50%\) and 2 more\.$/);
	});
});
