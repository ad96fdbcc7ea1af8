import type { Bridge } from "@/core/bridge/bridge";
import type { DealList, StepDeal } from "@/core/bridge/parts";
import { takesAway } from "@/core/bridge/step";
import { stepOf } from "@/core/bridge/steps";
import { blockOf } from "@/core/history/columns";
import type { CloseDeal, CloseStep } from "@/core/period/closeAccount";
import { leftOn } from "@/core/period/committed";
import type { Sum } from "@/core/period/counted";
import { type Day, formatDay, isoOrNull } from "@/core/time/day";
import type { Period } from "@/core/time/period";
import { spokenDay } from "@/core/time/words";
import { connection } from "@/data/db";
import { isOneOf } from "@/data/queries/isOneOf";
import { deals, dealVersions } from "@/data/schema";
import type { Context } from "@/platform/context";
import { accountName, dealName, ownerName } from "@/platform/names";

/** so many working days are the last of a period */
export const LAST_DAYS = 4;
/** so many deals of a step are named, the largest first; of what left without being won, more */
const NAMED = 10;

/** A deal that was pushed out, whose it was, and the day it left. */
export interface Pushed {
	readonly owner: number;
	readonly amount: number;
	readonly day: Day | null;
}

/** Where the deals went that were open when a period began, and those that came: the bridge over it, with the largest deals by name. */
export async function wentOf(context: Context, moved: Bridge, period: Period) {
	const { company } = context.organisation;
	const ends: [kind: string, name: string, leaves: boolean, amount: number, all: DealList][] = [
		["opening", `Open on ${spokenDay(period.start - 1, period.end)}`, false, moved.opening.amount, moved.opening.deals],
		...moved.steps.map(({ kind, amount, deals: all }): [string, string, boolean, number, DealList] => [
			kind,
			stepOf(kind).words.name,
			takesAway(stepOf(kind)),
			amount,
			all,
		]),
		["closing", "Undecided", false, moved.closing.amount, moved.closing.deals],
	];
	const largest = ends.map(([, , , , all]) => [...all].sort((a, b) => b.amount - a.amount || a.deal - b.deal).slice(0, NAMED));
	const reasons = await reasonsOf(context, largest.flat());
	const steps = ends.map(
		([kind, name, leaves, amount, all], i): CloseStep => ({
			kind,
			name,
			leaves,
			count: all.length,
			amount,
			deals: (largest[i] ?? []).map((deal) => dealOf(context, deal, period, kind, reasons)),
		}),
	);
	const out = moved.steps.find(({ kind }) => kind === "pushed-out");
	const pushed = [...(out?.deals ?? [])].map(
		({ deal, rowA, amount }): Pushed => ({
			owner: blockOf(company.history, deal).owner[rowA] as number,
			amount,
			day: leftOn(company, deal, period, period.end),
		}),
	);
	const pushedSince = (from: Day): Sum => {
		const late = pushed.filter(({ day }) => day !== null && day >= from);
		return { count: late.length, amount: late.reduce((sum, { amount }) => sum + amount, 0) };
	};
	return { steps, pushed, pushedSince };
}

function dealOf(context: Context, { deal, rowA, rowB, amount }: StepDeal, period: Period, kind: string, reasons: ReadonlyMap<string, string>): CloseDeal {
	const { organisation } = context;
	const { company, deals: facts } = organisation;
	const block = blockOf(company.history, deal);
	const id = facts[deal]?.id ?? "";
	const left = kind === "pushed-out" ? leftOn(company, deal, period, period.end) : null;
	return {
		id,
		name: dealName(organisation, deal),
		account: accountName(organisation, deal),
		owner: ownerName(organisation, block.owner[rowB < 0 ? rowA : rowB] as number),
		amount,
		close: rowB < 0 ? null : isoOrNull(block.close[rowB] as number),
		reason: reasons.get(`${kind === "lost" ? "lost" : "moved"} ${id}`) ?? null,
		leftOn: left === null ? null : formatDay(left),
	};
}

/** What was said of deals: why they were lost, and why their last change was made; by `lost` or `moved` and id. */
async function reasonsOf({ organisation }: Context, list: readonly StepDeal[]): Promise<Map<string, string>> {
	const { company, deals: facts } = organisation;
	const ids = [...new Set(list.flatMap(({ deal }) => facts[deal]?.id ?? []))];
	const found = new Map<string, string>();
	if (!ids.length) return found;
	const { db } = connection();
	const lost = await db.select({ id: deals.id, reason: deals.outcomeReason }).from(deals).where(isOneOf(deals.id, ids));
	for (const { id, reason } of lost) if (reason) found.set(`lost ${id}`, reason);
	const rows = list.flatMap(({ deal, rowB }) => (rowB < 0 ? [] : [blockOf(company.history, deal).id[rowB] as number]));
	const moved = await db.select({ id: dealVersions.dealId, reason: dealVersions.reason }).from(dealVersions).where(isOneOf(dealVersions.id, rows));
	for (const { id, reason } of moved) if (reason) found.set(`moved ${id}`, reason);
	return found;
}
