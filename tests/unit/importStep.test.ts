import { expect, test } from "vitest";
import { stepWords } from "@/features/import/server/importStep";

test("what an import is at is worded when it is read", () => {
	expect(["" as const, "demo" as const, "opening" as const, "writing deals.csv" as const, "needed" as const, "died" as const].map(stepWords)).toEqual([
		"",
		"Making the demo company",
		"Opening the files",
		"Writing deals.csv",
		"Rows that other rows refer to can’t be skipped",
		"The server stopped during the import; nothing was imported",
	]);
});
