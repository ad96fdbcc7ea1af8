import { describe, expect, test, vi } from "vitest";
import { derive, derived, keyOf } from "./derive";

describe("what is worked out", () => {
	test("is made once for an owner and a key, and again for others", () => {
		const make = vi.fn((owner: { n: number }, by: number) => owner.n * by);
		const times = derived("test times", make);
		const [two, three] = [{ n: 2 }, { n: 3 }];
		expect([times(two, 5), times(two, 5), times(two, 6), times(three, 5)]).toEqual([10, 10, 12, 15]);
		expect(make).toHaveBeenCalledTimes(3);
	});
	test("may be nothing, and is kept all the same", () => {
		const make = vi.fn(() => undefined);
		const owner = {};
		derive(owner, "test nothing", "", make);
		derive(owner, "test nothing", "", make);
		expect(make).toHaveBeenCalledTimes(1);
	});
	test("goes when others of its kind were used later, as far as an owner keeps them", () => {
		const owner = {};
		const made: string[] = [];
		const ask = (key: string) => derive(owner, "test most", key, () => made.push(key), 2);
		for (const key of ["a", "b", "a", "c", "a", "b"]) ask(key);
		// With room for two, b is the one that was used longest ago as c comes.
		expect(made).toEqual(["a", "b", "c", "b"]);
	});
	test("is shared by all who name the kind, and told apart from other kinds", () => {
		const owner = {};
		const first = derive(owner, "test shared", 1, () => ({}));
		expect(derived("test shared", (_: object, __: number) => ({}))(owner, 1)).toBe(first);
		expect(derive(owner, "test other", 1, () => ({}))).not.toBe(first);
	});
	test("is tried again where it fails, at once or later", async () => {
		const owner = {};
		let calls = 0;
		const fail = () => {
			calls++;
			throw new Error("no");
		};
		expect(() => derive(owner, "test throws", "", fail)).toThrow("no");
		expect(() => derive(owner, "test throws", "", fail)).toThrow("no");
		expect(calls).toBe(2);
		const later = vi.fn(() => Promise.reject(new Error("later")));
		await expect(derive(owner, "test rejects", "", later)).rejects.toThrow("later");
		await expect(derive(owner, "test rejects", "", later)).rejects.toThrow("later");
		expect(later).toHaveBeenCalledTimes(2);
	});
});

test("a key of several parts names objects by which they are, not by what is in them", () => {
	const [one, other] = [{ a: 1 }, { a: 1 }];
	expect(keyOf("x", one)).toBe(keyOf("x", one));
	expect(keyOf("x", one)).not.toBe(keyOf("x", other));
	expect(keyOf("a", null, undefined, 2)).toBe("a null undefined 2");
});
