import { readAccounts } from "@/features/accounts/server/readAccounts";
import { readCare } from "@/features/accounts/server/readCare";
import { readTerritories } from "@/features/accounts/server/readTerritories";
import { readTurns } from "@/features/accounts/server/readTurns";
import { readChanges } from "@/features/changes/server/readChanges";
import { readDifferences } from "@/features/changes/server/readDifferences";
import { readFlow } from "@/features/changes/server/readFlow";
import { readNotes } from "@/features/changes/server/readNotes";
import { readRiver } from "@/features/changes/server/readRiver";
import { readTrend } from "@/features/changes/server/readTrend";
import { packedDealsText } from "@/features/deals/server/packedDeals";
import { largestDeals, readDeals } from "@/features/deals/server/readDeals";
import { unpackDeals } from "@/features/deals/table/pack";
import { readEvidence } from "@/features/evidence/server/readEvidence";
import { PATTERN_KINDS } from "@/features/patterns/server/kinds";
import { readOutlook } from "@/features/patterns/server/readOutlook";
import { readPatternNow } from "@/features/patterns/server/readPattern";
import { readPeriodOfApi } from "@/features/period/server/periodJson";
import { readPeriod } from "@/features/period/server/readPeriod";
import { readDeal } from "@/features/sheet/server/readDeal";
import { readSheet } from "@/features/sheet/server/readSheet";
import { readFollowThrough, readTooLate } from "@/features/tasks/server/followThrough";
import { readTasks } from "@/features/tasks/server/readTasks";
import type { Context } from "@/platform/context";
import { resolveViewpoint } from "@/platform/viewpoint";
import { day } from "./company";
import { allDeals } from "./deals";

/** Which moments are looked at, and one deal by its id. */
export interface Asked {
	readonly seen: string;
	readonly against: string;
	readonly deal: string;
}

const QUARTER = { start: day("2026-10-01"), end: day("2026-12-31") };

/** What every query says of a moment, as text; what may be done now is left out. */
export async function everythingSaid(context: Context, { seen, against, deal }: Asked): Promise<Record<string, string>> {
	const viewpoint = resolveViewpoint(context, { seen, against, due: "any" });
	const quarter = resolveViewpoint(context, { seen, against, due: "2026-10-01..2026-12-31" });
	const changes = readChanges(context, viewpoint);
	const { choices: _, callable: __, ...sheet } = await readSheet(context, deal, seen, against);
	const said = {
		sheet,
		deal: await readDeal(context, deal, seen),
		deals: allDeals(context, { as_of: seen }),
		table: readDeals(context, viewpoint),
		closed: readDeals(context, viewpoint, "closed"),
		largest: largestDeals(context, viewpoint, 3),
		period: readPeriodOfApi(context, { from: "2026-10-01", to: "2026-12-31", as_of: seen, against }),
		packed: unpackDeals(packedDealsText(context, viewpoint)),
		changes,
		notes: changes && (await readNotes(context, viewpoint, changes)),
		differences: readDifferences(context, viewpoint),
		flow: readFlow(context, viewpoint),
		trend: await readTrend(context, viewpoint),
		river: readRiver(context, viewpoint, undefined),
		evidence: readEvidence(context, viewpoint),
		accounts: await readAccounts(context, viewpoint),
		territories: await readTerritories(context, viewpoint),
		turns: await readTurns(context, viewpoint, 50),
		care: await readCare(context, viewpoint, { limit: 50 }),
		"changes by territory": readChanges(context, viewpoint, { by: "territory" }),
		"period by territory": (await readPeriod(context, quarter, "territory"))?.groups,
		"period by kind": (await readPeriod(context, quarter, "kind"))?.groups,
		tasks: await readTasks(context, null, viewpoint.seen.day),
		followed: readFollowThrough(context, null, QUARTER, viewpoint.seen.day),
		late: await readTooLate(context, viewpoint, QUARTER),
		outlook: await readOutlook(context, null, QUARTER, viewpoint.seen.day),
		...Object.fromEntries(
			await Promise.all(
				PATTERN_KINDS.flatMap(({ key }) =>
					["rep", "kind"].map(async (by) => [
						`past ${key} ${by}`,
						await readPatternNow(context, key, { scope: null, day: viewpoint.seen.day, look: { quarters: 8, lead: 5 }, by }),
					]),
				),
			),
		),
	};
	return Object.fromEntries(
		Object.entries(said).map(([name, value]) => [name, JSON.stringify(value, (_key, one) => (ArrayBuffer.isView(one) ? [...(one as Int32Array)] : one))]),
	);
}
