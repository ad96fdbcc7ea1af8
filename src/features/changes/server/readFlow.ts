import { OUTSIDE_PLACES, stageFlow } from "@/core/bridge/flow";
import { asOf, blockOf } from "@/core/history/columns";
import { query } from "@/platform/command";
import type { Context } from "@/platform/context";
import { accountName, dealName, ownerName } from "@/platform/names";
import type { Viewpoint } from "@/platform/viewpoint";

export interface FlowCellView {
	readonly from: string;
	readonly to: string;
	readonly count: number;
	readonly amount: number;
	readonly deals: readonly { readonly id: string; readonly name: string; readonly account: string; readonly owner: string }[];
}

export interface FlowView {
	/** places in order, those that are met at either end */
	readonly from: readonly string[];
	readonly to: readonly string[];
	readonly cells: readonly FlowCellView[];
	/** of the deals that stood in each stage at first: how many went on, and how many there were */
	readonly onward: readonly { readonly stage: string; readonly went: number; readonly of: number }[];
	readonly currency: string;
}

/** From place to place between the two days: how many deals and how much, and the share of each stage that went on. */
export const readFlow = query("changes.flow", "readChanges", (context: Context, viewpoint: Viewpoint): FlowView | null => {
	const { organisation } = context;
	const { company } = organisation;
	const { period } = viewpoint.due;
	if (!period) return null;
	const found = stageFlow(company, viewpoint.against.day, viewpoint.seen.day, period, viewpoint.whose.scope);
	const stages = company.rules.stages.filter((stage) => stage.kind === "open").map((stage) => stage.name);
	const order = [OUTSIDE_PLACES.absent, OUTSIDE_PLACES.outside, ...stages, OUTSIDE_PLACES.won, OUTSIDE_PLACES.lost];
	const met = (pick: "from" | "to") => order.filter((place) => found.some((cell) => cell[pick] === place));
	const later = (from: string, to: string) => to === OUTSIDE_PLACES.won || (stages.includes(to) && stages.indexOf(to) > stages.indexOf(from));
	return {
		from: met("from"),
		to: met("to"),
		cells: found.map((cell) => ({
			from: cell.from,
			to: cell.to,
			count: cell.count,
			amount: cell.amount,
			deals: cell.deals.map((deal) => ({
				id: organisation.deals[deal]?.id ?? "",
				name: dealName(organisation, deal, viewpoint.seen.day),
				account: accountName(organisation, deal, viewpoint.seen.day),
				owner: ownerName(organisation, blockOf(company.history, deal).owner[asOf(company.history, deal, viewpoint.seen.day)] as number),
			})),
		})),
		onward: stages.flatMap((stage) => {
			const own = found.filter((cell) => cell.from === stage);
			const of = own.reduce((sum, cell) => sum + cell.count, 0);
			return of ? [{ stage, of, went: own.filter((cell) => later(stage, cell.to)).reduce((sum, cell) => sum + cell.count, 0) }] : [];
		}),
		currency: company.rules.rates.base,
	};
});
