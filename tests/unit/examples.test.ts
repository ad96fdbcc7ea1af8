import { readFileSync } from "node:fs";
import { describe, expect, test } from "vitest";

// The examples in the comments of public functions: what stands behind // is what comes out.
const modules = { ...import.meta.glob("/src/core/**/*.ts"), ...import.meta.glob("/src/formats/**/*.ts"), ...import.meta.glob("/src/platform/*.ts") };
const EXAMPLE = /^ \* @example (.+?) \/\/ (.+)$/gm;

const examples = Object.entries(modules).flatMap(([path, load]) =>
	path.includes(".test.")
		? []
		: [...readFileSync(`.${path}`, "utf8").matchAll(EXAMPLE)]
				.map(([, code = "", result = ""]) => ({ path, load, code, result }))
				// What is left out, or named as somebody has it, can't be run.
				.filter(({ code, result }) => !`${code}${result}`.includes("…") && !/\b(setting|stages|company)\b/.test(code)),
);

describe("examples", () => {
	test("there are some", () => expect(examples.length).toBeGreaterThan(15));
	for (const { path, load, code, result } of examples) {
		test(`${path.slice(5)}: ${code}`, async () => {
			const own = (await load()) as Record<string, unknown>;
			const got = new Function(...Object.keys(own), `return (${code});`)(...Object.values(own));
			expect(got).toEqual(JSON.parse(result));
		});
	}
});
