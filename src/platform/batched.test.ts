import { expect, test } from "vitest";
import { batched } from "./batched";

test("what is asked while an answer is on its way is asked together next, each key once", async () => {
	const asked: string[][] = [];
	const answer: (() => void)[] = [];
	const lengthOf = batched(async (keys: string[]) => {
		asked.push(keys);
		await new Promise<void>((done) => answer.push(done));
		return new Map(keys.filter((key) => key !== "unknown").map((key) => [key, key.length]));
	});
	const first = lengthOf("lamp");
	await Promise.resolve();
	const rest = [lengthOf("porch"), lengthOf("lamp"), lengthOf("porch"), lengthOf("unknown")];
	answer.shift()?.();
	expect(await first).toBe(4);
	await Promise.resolve();
	answer.shift()?.();
	expect(await Promise.all(rest)).toEqual([5, 4, 5, undefined]);
	expect(asked).toEqual([["lamp"], ["porch", "lamp", "unknown"]]);
});

test("a question that fails is told to those who asked, and the next one is asked anew", async () => {
	let broken = true;
	const double = batched(async (keys: number[]) => {
		if (broken) throw new Error("no answer");
		return new Map(keys.map((key) => [key, key * 2]));
	});
	await expect(double(1)).rejects.toThrow("no answer");
	broken = false;
	expect(await double(1)).toBe(2);
});
