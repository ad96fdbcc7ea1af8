import { expect, test } from "vitest";
import { linesTable, median, ms, tableOf, timed, times } from "../../bench/measure";

test("times are sorted, after the runs that warm up", async () => {
	let runs = 0;
	const found = await timed(() => runs++, 5, 3);
	expect([runs, found.length]).toEqual([8, 5]);
	expect([...found].sort((a, b) => a - b)).toEqual(found);
	expect(median([1, 2, 9])).toBe(2);
	expect(median([])).toBeNaN();
});

test("figures are written with as many digits as they deserve", () => {
	expect([ms(4.26), ms(42.6), times(9.96), times(38.2)]).toEqual(["4.3 ms", "43 ms", "10.0 ×", "38 ×"]);
});

test("a table lines its columns up, and says whether an aim is met", () => {
	expect(tableOf(["a", "long"], [["value", "b"]])).toBe("| a     | long |\n|-------|------|\n| value | b    |");
	const table = linesTable([
		{ what: "bridge", measured: "21 ms", aim: "42 ms", met: true },
		{ what: "page", measured: "200 ms", aim: "150 ms", met: false },
		{ what: "pass", measured: "20 ms", aim: "", met: null },
	]).split("\n");
	expect(table.slice(2).map((line) => line.split("|").at(-2)?.trim())).toEqual(["met", "not met", ""]);
	expect(new Set(table.map((line) => line.length)).size).toBe(1);
});
