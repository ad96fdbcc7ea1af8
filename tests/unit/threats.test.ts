import { existsSync, readFileSync } from "node:fs";
import { expect, test } from "vitest";

test("each threat that is written down names a test that is there", () => {
	const lines = readFileSync("docs/threats.md", "utf8")
		.split("\n")
		.filter((line) => /^\| (?!door|---)/.test(line));
	expect(lines.length).toBeGreaterThan(10);
	for (const line of lines) {
		const [, file = "", name = ""] = /`(\S+\.test\.ts)` “(.+)” \|$/.exec(line) ?? [];
		expect(existsSync(file), line).toBe(true);
		expect(readFileSync(file, "utf8"), line).toContain(`"${name}"`);
	}
});
