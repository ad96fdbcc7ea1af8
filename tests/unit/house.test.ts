import { readFileSync } from "node:fs";
import { relative } from "node:path";
import { describe, expect, test } from "vitest";
import { functionsOf } from "../kit/functions";
import { sources } from "../kit/words";

/** No function is longer; a file has one idea, and no more lines than this. */
const [FUNCTION, FILE] = [60, 250];
/** How many still are, and by how much the longest: these may fall and never rise. */
const STILL = { functions: 116, longestFunction: 126, files: 22, longestFile: 379 };
/** Long for a reason: one list of what a bundle’s own files hold. */
const LISTS = ["src/formats/bundle/ownSpecs.ts"];

describe("the house", () => {
	const files = sources().filter((file) => !LISTS.includes(relative(process.cwd(), file)));
	test("has short functions: no more long ones than there were, and none that is longer", () => {
		const long = files.flatMap((file) => functionsOf(file)).filter(({ lines }) => lines > FUNCTION);
		expect(long.length).toBeLessThanOrEqual(STILL.functions);
		expect(long.filter(({ lines }) => lines > STILL.longestFunction)).toEqual([]);
	});
	test("has short files: no more long ones than there were, and none that is longer", () => {
		const long = files.map((file) => ({ file, lines: readFileSync(file, "utf8").split("\n").length - 1 })).filter(({ lines }) => lines > FILE);
		expect(long.length).toBeLessThanOrEqual(STILL.files);
		expect(long.filter(({ lines }) => lines > STILL.longestFile)).toEqual([]);
	});
	test("counts functions by their lines, those within others too", () => {
		expect(functionsOf("a.ts", "const a = () => {\n\treturn function b() {\n\t\treturn 1;\n\t};\n};\n").map(({ line, lines }) => [line, lines])).toEqual([
			[1, 5],
			[2, 3],
		]);
	});
});
