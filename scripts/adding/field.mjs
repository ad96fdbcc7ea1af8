// A versioned field more, put into a copy of the program: what docs/adding.md says of it, done.
import { spawnSync } from "node:child_process";
import { readFileSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { Halt, say } from "../lib/say.mjs";

/** Where a field is stored: each file with a place that is there, and what comes after it. */
const PLACES = [
	["src/core/deal/state.ts", /\treadonly nextStepDate: string \| null;\n/, "\treadonly decisionDay: string | null;\n"],
	[
		"src/core/deal/fields.ts",
		/(?=\n\/\*\* The reason of a version that only takes)/,
		`
const decisionDay: VersionedField = {
	key: "decisionDay",
	label: "Decision",
	kind: "day",
	edited: "alone",
	at: (_, block, row) => isoOrNull(block.decisionDay[row] as number),
};
`,
	],
	["src/core/deal/fields.ts", /nextStep, nextStepDate(?=\];)/, ", decisionDay"],
	["src/core/history/columns.ts", /\treadonly nextStepDay: Day;\n/, "\treadonly decisionDay: Day;\n"],
	["src/core/history/columns.ts", /\tnextStepDay: NO_DAY,\n/, "\tdecisionDay: NO_DAY,\n"],
	["src/core/history/columns.ts", /\tnextStepDay: Int32Array,\n/, "\tdecisionDay: Int32Array,\n"],
	["src/data/schema/deals.ts", /\tnextStepDate: day\("next_step_date"\),\n/, '\tdecisionDay: day("decision_day"),\n'],
	["src/data/organisation/dealVersions.ts", /next_step, next_step_date(?= from deal_versions)/, ", decision_day"],
	["src/data/organisation/dealVersions.ts", /\t\t\tnextStepDay: dayIn\(row\.next_step_date\),\n/, "\t\t\tdecisionDay: dayIn(row.decision_day),\n"],
	["src/formats/bundle/dealSpecs.ts", /\t\t\tday\("next_step_date"\),\n/, '\t\t\tday("decision_day", { extra: true }),\n'],
];

const TEST = `
import { afterAll, beforeAll, expect, test } from "vitest";
import { editDeals, previewEdit } from "@/features/deals/server/editDeals";
import { undoEdit } from "@/features/deals/server/undoEdit";
import { storedBundle } from "@/features/import/server/exportBundle";
import { readDeal } from "@/features/sheet/server/readDeal";
import { readSheet } from "@/features/sheet/server/readSheet";
import { SMALL, small } from "../kit/bundle";
import { as, freshDatabase, importAs } from "../kit/database";

let database: Awaited<ReturnType<typeof freshDatabase>>;
beforeAll(async () => {
	database = await freshDatabase("added_field");
	const [head, ...lines] = SMALL["deal_versions.csv"] as string[];
	await importAs(small({ "deal_versions.csv": [head + ",decision_day", ...lines.map((line) => line + ",2026-11-30")] }));
});
afterAll(() => database.drop());

test("a field more is imported, changed, seen as of a day, told on the sheet, exported and undone", async () => {
	const deal = (on?: string) => as("north").then((context) => readDeal(context, "d1", on));
	const { versionId, decisionDay } = await deal();
	expect(decisionDay).toBe("2026-11-30");
	const wish = { targets: [{ id: "d1", versionId }], change: { decisionDay: "2026-12-04" } };
	expect((await previewEdit(await as("north"), wish))[0]?.differences).toEqual([{ field: "Decision", before: "30 Nov 2026", after: "4 Dec 2026" }]);
	const [done] = await editDeals(await as("north"), wish);
	expect(await deal()).toMatchObject({ decisionDay: "2026-12-04", stage: "Survey" });
	expect((await deal()).versions.map((version) => version.decisionDay)).toEqual(["2026-11-30", "2026-11-30", "2026-12-04"]);
	expect((await deal("2026-11-20")).decisionDay).toBe("2026-11-30");
	const sheet = await readSheet(await as("north"), "d1", "2026-11-24", "2026-11-20");
	expect(sheet.state.decisionDay).toBe("2026-12-04");
	expect(sheet.changes).toContainEqual({ field: "Decision", before: "30 Nov", after: "4 Dec" });
	const files = await storedBundle();
	expect(new TextDecoder().decode(files.get("deal_versions.csv"))).toContain("2026-12-04");
	await undoEdit(await as("north"), { targets: [{ id: "d1", versionId: done?.versionId ?? 0 }] });
	expect((await deal()).decisionDay).toBe("2026-11-30");
});
`;

/** Puts the field in, has its migration made, and leaves a test of it. */
export function addField(copy) {
	for (const [file, place, more] of PLACES) {
		const text = readFileSync(join(copy, file), "utf8");
		const found = place.exec(text);
		if (!found) throw new Halt(`${file} has no ${place}.`);
		const at = found.index + found[0].length;
		writeFileSync(join(copy, file), text.slice(0, at) + more + text.slice(at));
	}
	const { status, stderr } = spawnSync(join(copy, "node_modules/.bin/drizzle-kit"), ["generate", "--name", "decision_day"], { cwd: copy, encoding: "utf8" });
	if (status !== 0) throw new Halt(`No migration could be made: ${stderr}`);
	writeFileSync(join(copy, "tests/db/addedField.test.ts"), TEST);
	say(`· a versioned field: ${new Set(PLACES.map(([file]) => file)).size} files, and the migration that is made of them`);
}
