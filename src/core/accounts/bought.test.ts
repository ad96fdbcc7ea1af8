import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { day } from "../../../tests/kit/company";
import { boughtBy, boughtYears, isAtRisk, type Order } from "./bought";
import { familiesBought, neverBoughtBy } from "./neverBought";

const D = day("2026-11-24");
const rates = { toBase: (amount: number, currency: string) => (currency === "USD" ? amount / 2 : amount) };
const order = (ago: number, amount: number, given: Partial<Order> = {}): Order => ({
	account: "a",
	day: D - ago,
	product: "Oven",
	amount,
	currency: "EUR",
	...given,
});
const RULE = { share: 0.7, longest: 91 };

describe("what was bought", () => {
	test("is told apart at 365 and 730 days, at the day’s rates", () => {
		const of = (ago: number) => boughtBy([order(ago, 100)], D, rates);
		expect([0, 364, 365, 729, 730, -1].map((ago) => [of(ago).last365, of(ago).before365])).toEqual([
			[100, 0],
			[100, 0],
			[0, 100],
			[0, 100],
			[0, 0],
			[0, 0],
		]);
		expect(boughtBy([order(1, 50, { currency: "USD" }), order(400, 50)], D, rates)).toEqual({ last365: 25, before365: 50, trend: 0.5 });
		expect(boughtBy([order(1, 50)], D, rates).trend).toBeNull();
	});
	test("is at risk as in the worked example", () => {
		const trend = (last: number) => boughtBy([order(400, 40_000), order(10, last)], D, rates);
		expect(isAtRisk(trend(27_000), 0, RULE)).toBe(true);
		expect(isAtRisk(trend(28_000), 91, RULE)).toBe(false);
		expect(isAtRisk(trend(28_000), 92, RULE)).toBe(true);
		expect(isAtRisk(trend(28_000), null, RULE)).toBe(true);
		expect(isAtRisk(boughtBy([], D, rates), null, RULE)).toBe(false);
		expect(isAtRisk(boughtBy([order(10, 5)], D, rates), 3, RULE)).toBe(false);
	});
	test("by year and product adds up to all of it, the newest year first", () => {
		fc.assert(
			fc.property(
				fc.array(
					fc.record({ ago: fc.integer({ min: -50, max: 2000 }), amount: fc.integer({ min: 0, max: 9999 }), product: fc.constantFrom("Oven", "Mixer", "") }),
				),
				(given) => {
					const orders = given.map(({ ago, amount, product }) => order(ago, amount, { product }));
					const years = boughtYears(orders, D, rates, 1);
					const sum = orders.filter(({ day: on }) => on <= D).reduce((all, { amount }) => all + amount, 0);
					expect(years.reduce((all, { amount }) => all + amount, 0)).toBe(sum);
					for (const { amount, products } of years) expect(products.reduce((all, one) => all + one.amount, 0)).toBe(amount);
					expect(years.map(({ from }) => from)).toEqual([...years.map(({ from }) => from)].sort((a, b) => b - a));
				},
			),
		);
	});
});

describe("what accounts alike buy and one never did", () => {
	const accounts = ["a", "b", "c", "d", "e", "f"].map((id) => ({ id, kind: "customer", industry: "Bakery" }));
	const me = accounts[0] as (typeof accounts)[0];
	const never = (orders: readonly Order[], others = accounts) =>
		neverBoughtBy(me, familiesBought(others, orders, D, new Map([["Rack oven", new Set(["Ovens"])]])));
	const buys = (account: string, product: string, ago = 10) => order(ago, 1, { account, product });
	test("is what a third of five or more bought in two years: itself left out, others by kind and industry", () => {
		expect(never([buys("b", "Rack oven"), buys("c", "Rack oven")])).toEqual([{ family: "Ovens", by: 2, of: 5 }]);
		expect(never([buys("b", "Rack oven")])).toEqual([]);
		expect(never([buys("b", "Rack oven"), buys("c", "Rack oven")], accounts.slice(0, 5))).toEqual([]);
		const elsewhere = accounts.map((one, i) => (i === 5 ? { ...one, industry: "Hotel" } : one));
		expect(never([buys("b", "Rack oven"), buys("c", "Rack oven")], elsewhere)).toEqual([]);
	});
	test("a product that no line names is a family of its own; what is older than two years counts for itself alone", () => {
		expect(never([buys("b", "Peel"), buys("c", "Peel")]).map(({ family }) => family)).toEqual(["Peel"]);
		expect(never([buys("b", "Peel", 730), buys("c", "Peel", 729)])).toEqual([]);
		expect(never([buys("b", "Peel"), buys("c", "Peel"), buys("a", "Peel", 3000)])).toEqual([]);
		expect(never([buys("b", "Peel"), buys("c", "Peel", -1)])).toEqual([]);
	});
});
