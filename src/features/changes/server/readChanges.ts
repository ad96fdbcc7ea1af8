import { type Bridge, bridge } from "@/core/bridge/bridge";
import { fieldChanges } from "@/core/bridge/compare";
import type { DealList, StepDeal } from "@/core/bridge/parts";
import { exists } from "@/core/bridge/scope";
import { takesAway } from "@/core/bridge/step";
import { stepOf } from "@/core/bridge/steps";
import { blockOf, NONE } from "@/core/history/columns";
import type { Day } from "@/core/time/day";
import { isoOrNull } from "@/core/time/day";
import { spokenDay, workingDays } from "@/core/time/words";
import { query } from "@/platform/command";
import type { Context } from "@/platform/context";
import { derivedFor } from "@/platform/derivedFor";
import { accountName, dealName, ownerName } from "@/platform/names";
import type { Viewpoint } from "@/platform/viewpoint";
import type { ChangedDeal, ChangedPart, ChangedStep, ChangesLook, ChangesView } from "./changesView";
import { headline } from "./headline";
import { largestFirst, largestOf } from "./largest";
import { brokenSeals } from "./marks";
import { SLICES, type SliceKey, sliceOf } from "./slices";

/** The bridge of a viewpoint, with each step's deals before and after; null when deals without a date are asked for. */
export const readChanges = query("changes.bridge", "readChanges", (context: Context, viewpoint: Viewpoint, look: ChangesLook = {}): ChangesView | null => {
	const { company } = context.organisation;
	const { period } = viewpoint.due;
	if (!period) return null;
	const by = look.by ?? "rep";
	const { result, slices } = derivedFor(context, viewpoint, `bridge by ${by}`, () => {
		const made = bridge(company, viewpoint.against.day, viewpoint.seen.day, period, viewpoint.whose.scope);
		return { result: made, slices: slicesOf(context, made, by, viewpoint.seen.day) };
	});
	const taken = largestOf(context, result, look, slices.at);
	const step = (kind: ChangedStep["kind"], name: string, amount: number, all: DealList): ChangedStep => ({
		kind,
		name,
		leaves: kind !== "opening" && kind !== "closing" && takesAway(stepOf(kind)),
		amount,
		count: all.length,
		shown: taken.get(kind)?.shown ?? { amount, count: all.length },
		deals: taken.get(kind)?.deals.map((deal) => changedDeal(context, deal, viewpoint.seen.day)) ?? [],
	});
	const span = company.rules.calendar.between(viewpoint.against.day, viewpoint.seen.day);
	const { finding, causes } = headline(
		result,
		company.rules.rates.base,
		workingDays(span),
		(deal) => context.organisation.deals[deal]?.name || "a deal without a name",
	);
	return {
		headline: finding,
		causes,
		currency: company.rules.rates.base,
		opening: result.opening.amount,
		closing: result.closing.amount,
		lostOutside: {
			amount: result.lostOutside.amount,
			count: result.lostOutside.deals.length,
			deals: largestFirst(context)(result.lostOutside.deals).map((deal) => changedDeal(context, deal, viewpoint.seen.day)),
		},
		steps: [
			step("opening", spokenDay(viewpoint.against.day, viewpoint.seen.day), result.opening.amount, result.opening.deals),
			...result.steps.map(({ kind, amount, deals }) => step(kind, stepOf(kind).words.name, amount, deals)),
			step("closing", viewpoint.seen.past ? viewpoint.seen.label : "Today", result.closing.amount, result.closing.deals),
		],
		by,
		parts: slices.parts,
		fields: SLICES,
		broken: [...brokenSeals(context, viewpoint.against.day), ...brokenSeals(context, viewpoint.seen.day)],
	};
});

/**
 * The bridge by the parts of a field. A deal that leaves does so from the part it stood in before, all else counts
 * for the part it stands in after; what changed its part while it was in at both ends went between parts.
 */
function slicesOf(context: Context, result: Bridge, by: SliceKey, seen: number) {
	const label = sliceOf(context, by, seen);
	const closing = new Set(result.closing.deals.map((deal) => deal.deal));
	const opening = new Set(result.opening.deals.map((deal) => deal.deal));
	const before = (deal: StepDeal) => label(deal.deal, deal.rowA);
	const after = (deal: StepDeal) => label(deal.deal, deal.rowB);
	const own = (deal: StepDeal) => (opening.has(deal.deal) && !closing.has(deal.deal) ? before(deal) : after(deal));
	const parts = new Map<string, { opening: number; closing: number; between: number; steps: Record<string, number> }>();
	const part = (name: string) => {
		const known = parts.get(name) ?? { opening: 0, closing: 0, between: 0, steps: {} };
		parts.set(name, known);
		return known;
	};
	for (const deal of result.opening.deals) {
		part(before(deal)).opening += deal.before;
		if (!closing.has(deal.deal) || before(deal) === after(deal)) continue;
		part(before(deal)).between -= deal.before;
		part(after(deal)).between += deal.before;
	}
	for (const deal of result.closing.deals) part(after(deal)).closing += deal.after;
	for (const { kind, deals } of result.steps) {
		for (const deal of deals) {
			const { steps } = part(own(deal));
			steps[kind] = (steps[kind] ?? 0) + (takesAway(stepOf(kind)) ? -deal.amount : deal.amount);
		}
	}
	return {
		/** the parts a deal counts for */
		at: (deal: StepDeal) => [deal.rowA < 0 ? null : before(deal), deal.rowB < 0 ? null : after(deal)],
		parts: [...parts]
			.map(([name, sums]): ChangedPart => ({ part: name, ...sums, net: sums.closing - sums.opening }))
			.sort((a, b) => Math.abs(b.net) - Math.abs(a.net) || (a.part < b.part ? -1 : 1)),
	};
}

function changedDeal(context: Context, deal: StepDeal, day: Day): ChangedDeal {
	const { organisation } = context;
	const { history, rules } = organisation.company;
	const id = organisation.deals[deal.deal]?.id ?? "";
	const block = blockOf(history, deal.deal);
	const stage = (row: number) => (row < 0 ? null : (rules.stages[block.stage[row] as number]?.name ?? null));
	const close = (row: number) => (row < 0 ? null : isoOrNull(block.close[row] as number));
	const also = fieldChanges(organisation.company, deal.deal, deal.rowA, deal.rowB).flatMap((change) => {
		if (change.field === "ownerId")
			return [`owner ${ownerName(organisation, (change.before ?? NONE) as number)} → ${ownerName(organisation, (change.after ?? NONE) as number)}`];
		if (change.field === "category") return [`${change.before ?? "no category"} → ${change.after ?? "no category"}`.replaceAll("_", " ")];
		return [];
	});
	return {
		id,
		name: dealName(organisation, deal.deal, day),
		account: accountName(organisation, deal.deal, day),
		owner: ownerName(organisation, block.owner[deal.rowB < 0 ? deal.rowA : deal.rowB] as number),
		amount: deal.amount,
		before: exists(organisation.company, block, deal.rowA) ? deal.before : null,
		after: exists(organisation.company, block, deal.rowB) ? deal.after : null,
		closeBefore: close(deal.rowA),
		closeAfter: close(deal.rowB),
		stageBefore: stage(deal.rowA),
		stageAfter: stage(deal.rowB),
		also,
	};
}
