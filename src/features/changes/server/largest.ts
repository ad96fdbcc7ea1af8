import type { Bridge } from "@/core/bridge/bridge";
import type { DealList, StepDeal } from "@/core/bridge/parts";
import { byId } from "@/core/deal/order";
import type { Context } from "@/platform/context";
import type { ChangedStep, ChangesLook } from "./changesView";

/** The order of deals in lists: the largest first. */
export const largestFirst = ({ organisation }: Context) => {
	const order = byId(organisation.company);
	return (list: DealList): StepDeal[] => [...list].sort((a, b) => b.amount - a.amount || order(a.deal, b.deal));
};

interface Taken {
	readonly shown: ChangedStep["shown"];
	readonly deals: readonly StepDeal[];
}

/**
 * The deals that are asked for, the largest first: those of the chosen step, or the largest of all that moved; of the
 * two ends only where they are chosen, or where nothing limits the answer.
 */
export function largestOf(context: Context, result: Bridge, look: ChangesLook, parts: (deal: StepDeal) => (string | null)[]): Map<string, Taken> {
	const { part, limit, step } = look;
	const lists: [kind: string, list: DealList][] = [
		["opening", result.opening.deals],
		...result.steps.map(({ kind, deals }): [string, DealList] => [kind, deals]),
		["closing", result.closing.deals],
	];
	const sorted = new Map<string, StepDeal[]>();
	const bySize = largestFirst(context);
	for (const [kind, list] of lists) {
		const end = kind === "opening" || kind === "closing";
		if (end && limit !== undefined && kind !== step && part === undefined) continue;
		sorted.set(
			kind,
			bySize(list).filter((deal) => part === undefined || parts(deal).includes(part)),
		);
	}
	const moved = [...sorted].filter(([kind]) => kind !== "opening" && kind !== "closing").flatMap(([, deals]) => deals);
	const least =
		limit === undefined || step !== undefined
			? Number.NEGATIVE_INFINITY
			: (moved.map((deal) => deal.amount).sort((a, b) => b - a)[limit] ?? Number.NEGATIVE_INFINITY);
	const wanted = (kind: string, deals: StepDeal[]) => {
		if (limit === undefined || (kind === step && look.all)) return deals;
		if (step !== undefined) return kind === step ? deals.slice(0, limit) : [];
		return kind === "opening" || kind === "closing" ? [] : deals.filter((deal) => deal.amount >= least).slice(0, limit);
	};
	return new Map(
		[...sorted].map(([kind, deals]) => [
			kind,
			{ shown: { amount: deals.reduce((sum, deal) => sum + deal.amount, 0), count: deals.length }, deals: wanted(kind, deals) },
		]),
	);
}
