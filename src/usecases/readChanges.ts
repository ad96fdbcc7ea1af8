import { type Bridge, bridge, LEAVING, type StepKind } from "../core/bridge/bridge";
import { fieldChanges } from "../core/bridge/compare";
import type { StepDeal } from "../core/bridge/parts";
import { NONE } from "../core/history/columns";
import { isoOrNull } from "../core/time/day";
import { workingDays } from "../core/time/words";
import type { Context } from "./context";
import { headline } from "./headline";
import { type BrokenSeal, brokenSeals } from "./marks";
import { accountName, ownerName } from "./readDeals";
import { demand } from "./rights";
import type { Sentence } from "./sentence";

export interface ChangedDeal {
	readonly id: string;
	readonly name: string;
	readonly account: string;
	readonly owner: string;
	/** its owners at both ends */
	readonly owners: readonly string[];
	/** what it adds to the step, and its amounts at both ends; base minor units */
	readonly amount: number;
	readonly before: number | null;
	readonly after: number | null;
	readonly closeBefore: string | null;
	readonly closeAfter: string | null;
	readonly stageBefore: string | null;
	readonly stageAfter: string | null;
	/** the other fields that differ, in words */
	readonly also: readonly string[];
}

export interface ChangedStep {
	readonly kind: StepKind | "opening" | "closing";
	readonly name: string;
	readonly leaves: boolean;
	readonly amount: number;
	readonly deals: readonly ChangedDeal[];
}

export interface ChangesView {
	readonly headline: string;
	readonly causes: string;
	readonly currency: string;
	readonly opening: number;
	readonly closing: number;
	/** opening first, closing last */
	readonly steps: readonly ChangedStep[];
	/** net change by rep, largest first */
	readonly byRep: readonly { readonly name: string; readonly net: number }[];
	/** marks of either day whose seal no longer fits */
	readonly broken: readonly BrokenSeal[];
}

export const STEP_NAMES: Readonly<Record<StepKind, string>> = {
	new: "New",
	reopened: "Reopened",
	"handed-in": "Handed in",
	"rolled-in": "Rolled in",
	"pulled-in": "Pulled in",
	grew: "Grew",
	shrank: "Shrank",
	"pushed-out": "Pushed out",
	"moved-earlier": "Moved earlier",
	"handed-out": "Handed out",
	removed: "Removed",
	won: "Won",
	lost: "Lost",
};

/** The bridge of a sentence, with each step's deals before and after; null when deals without a date are asked for. */
export function readChanges(context: Context, sentence: Sentence): ChangesView | null {
	demand(context.actor, "readChanges");
	const { company } = context.memory;
	const { period } = sentence.due;
	if (!period) return null;
	const result = bridge(company, sentence.against.day, sentence.seen.day, period, sentence.whose.scope);
	const show = (deal: StepDeal) => changedDeal(context, deal);
	const steps: ChangedStep[] = [
		{ kind: "opening", name: sentence.against.words, leaves: false, amount: result.opening.amount, deals: result.opening.deals.map(show) },
		...result.steps.map((step) => ({
			kind: step.kind,
			name: STEP_NAMES[step.kind],
			leaves: leaves(step.kind),
			amount: step.amount,
			deals: step.deals.map(show).sort((a, b) => b.amount - a.amount || (a.id < b.id ? -1 : 1)),
		})),
		{
			kind: "closing",
			name: sentence.seen.past ? sentence.seen.words : "Today",
			leaves: false,
			amount: result.closing.amount,
			deals: result.closing.deals.map(show),
		},
	];
	const span = company.rules.calendar.between(sentence.against.day, sentence.seen.day);
	const { finding, causes } = headline(result, company.rules.rates.base, workingDays(span));
	return {
		headline: finding,
		causes,
		currency: company.rules.rates.base,
		opening: result.opening.amount,
		closing: result.closing.amount,
		steps,
		byRep: netByRep(context, result),
		broken: [...brokenSeals(context, sentence.against.day), ...brokenSeals(context, sentence.seen.day)],
	};
}

const leaves = (kind: StepKind) => kind === "shrank" || (LEAVING as readonly string[]).includes(kind);

function changedDeal(context: Context, deal: StepDeal): ChangedDeal {
	const { memory } = context;
	const { history, rules } = memory.company;
	const name = memory.deals[deal.deal];
	const stage = (row: number) => (row < 0 ? null : (rules.stages[history.stage[row] as number]?.name ?? null));
	const close = (row: number) => (row < 0 ? null : isoOrNull(history.close[row] as number));
	const also = fieldChanges(memory.company, deal.rowA, deal.rowB).flatMap((change) => {
		if (change.field === "owner")
			return [`owner ${ownerName(memory, (change.before ?? NONE) as number)} → ${ownerName(memory, (change.after ?? NONE) as number)}`];
		if (change.field === "category") return [`${change.before ?? "no category"} → ${change.after ?? "no category"}`.replaceAll("_", " ")];
		return [];
	});
	return {
		id: name?.id ?? "",
		name: name?.name || "No name",
		account: accountName(memory, deal.deal),
		owner: ownerName(memory, history.owner[deal.rowB < 0 ? deal.rowA : deal.rowB] as number),
		owners: [deal.rowA, deal.rowB].filter((row) => row >= 0).map((row) => ownerName(memory, history.owner[row] as number)),
		amount: deal.amount,
		before: deal.rowA < 0 ? null : deal.before,
		after: deal.rowB < 0 ? null : deal.after,
		closeBefore: close(deal.rowA),
		closeAfter: close(deal.rowB),
		stageBefore: stage(deal.rowA),
		stageAfter: stage(deal.rowB),
		also,
	};
}

/** Closing less opening, by the owner at each end: the parts add up to the whole change. */
function netByRep(context: Context, result: Bridge): { name: string; net: number }[] {
	const { owner } = context.memory.company.history;
	const net = new Map<number, number>();
	const add = (row: number, amount: number) => net.set(owner[row] as number, (net.get(owner[row] as number) ?? 0) + amount);
	for (const deal of result.opening.deals) add(deal.rowA, -deal.before);
	for (const deal of result.closing.deals) add(deal.rowB, deal.after);
	return [...net]
		.filter(([, amount]) => amount !== 0)
		.sort((a, b) => Math.abs(b[1]) - Math.abs(a[1]))
		.map(([who, amount]) => ({ name: ownerName(context.memory, who), net: amount }));
}
