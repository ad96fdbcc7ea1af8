import { readFileSync } from "node:fs";
import { describe, expect, test } from "vitest";
import { functionsOf } from "../kit/functions";
import { sources } from "../kit/words";

/** A function that is longer says why in its first line; a file has one idea, and no more lines than this. */
const [FUNCTION, FILE] = [60, 250];

describe("the house", () => {
	const files = sources();
	test("has short functions; a long one says why", () => {
		const long = files.flatMap((file) => functionsOf(file)).filter(({ lines, why }) => lines > FUNCTION && why === null);
		expect(long).toEqual([]);
	});
	test("gives no reason where none is needed", () => {
		const short = files.flatMap((file) => functionsOf(file)).filter(({ lines, why }) => lines <= FUNCTION && why !== null);
		expect(short).toEqual([]);
	});
	test("has no function of more than 100 lines for any reason but that it is a list", () => {
		const longest = files.flatMap((file) => functionsOf(file)).filter(({ lines, why }) => lines > 100 && !why?.startsWith("one list"));
		expect(longest).toEqual([]);
	});
	test("has short files", () => {
		const long = files.map((file) => ({ file, lines: readFileSync(file, "utf8").split("\n").length - 1 })).filter(({ lines }) => lines > FILE);
		expect(long).toEqual([]);
	});
	test("counts functions by their lines, those within others too, and finds their reasons", () => {
		const code = "const a = () => {\n\treturn function b() {\n\t\t// Long: so it is.\n\t\treturn 1;\n\t};\n};\n";
		expect(functionsOf("a.ts", code).map(({ line, lines, why }) => [line, lines, why])).toEqual([
			[1, 6, null],
			[2, 4, "so it is."],
		]);
	});
});
