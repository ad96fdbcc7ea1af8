import { afterAll, beforeAll, expect, test } from "vitest";
import { loadDemo } from "@/cli/demoCompany";
import { lastPeriods } from "@/core/patterns/quarters";
import { flagRecords } from "@/core/patterns/records";
import { connection } from "@/data/db";
import { currentOrganisation } from "@/data/organisation/follow";
import { USUAL_LOOK } from "@/features/patterns/server/looking";
import { companyFor } from "../../bench/calibrate/company";
import { day } from "../kit/company";
import { freshDatabase } from "../kit/database";

let database: Awaited<ReturnType<typeof freshDatabase>>;
beforeAll(async () => {
	database = await freshDatabase("oldanswers");
	await loadDemo(day("2026-11-24"), () => undefined);
});
afterAll(() => database.drop());

// Of the demo's 126 due deals nothing can be told; companies that are made the same way, and are large enough, show it.
test.each(["none", "mild"] as const)("old answers foretell nothing in a larger company of the same kind, its quarters %s apart", async (spread) => {
	const organisation = await currentOrganisation(connection().db);
	const today = day("2026-11-24");
	const company = companyFor(organisation.company, organisation, { size: 6000, spread }, today);
	const records = flagRecords(company, lastPeriods(company, "quarter", today, USUAL_LOOK.quarters, USUAL_LOOK.lead), today);
	const record = (code: string) => records.find((one) => one.code === code);
	expect(record("stale-answers")).toMatchObject({ apart: false, nothing: true });
	expect(record("stale-answers")?.with.n).toBeGreaterThan(250);
	// The same look does tell what there is to tell.
	expect(record("short-runway")).toMatchObject({ apart: true, nothing: false });
});
