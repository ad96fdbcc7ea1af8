import { z } from "zod";
import { bridge } from "@/core/bridge/bridge";
import type { StepDeal } from "@/core/bridge/parts";
import { STEP_KINDS } from "@/core/bridge/steps";
import { formatDay } from "@/core/time/day";
import { query } from "@/platform/command";
import type { Context } from "@/platform/context";
import { dayAsked, periodAsked } from "@/platform/days";
import { Fault } from "@/platform/fault";
import { scopeOf } from "@/platform/reach";

const stepDeal = z.object({
	id: z.string(),
	amount: z.number().int().meta({ description: "what the deal adds to the step, base minor units" }),
	before: z.number().int().nullable().meta({ description: "amount at a, at the rates of b; null: not yet there" }),
	after: z.number().int().nullable().meta({ description: "amount at b" }),
});
const total = z.object({ count: z.number().int(), amount: z.number().int(), deals: z.array(stepDeal) });

export const bridgeSchema = z
	.object({
		a: z.iso.date(),
		b: z.iso.date(),
		currency: z.string(),
		opening: z.number().int(),
		openingCount: z.number().int(),
		steps: z.array(total.extend({ kind: z.enum(STEP_KINDS) })),
		closing: z.number().int(),
		closingCount: z.number().int(),
		lostOutside: total.meta({ description: "lost from outside the period, since a closing sets the close date to its day: in no step" }),
	})
	.meta({ id: "Bridge" });

export interface BridgeQuery {
	readonly a: string;
	readonly b?: string | undefined;
	readonly from?: string | undefined;
	readonly to?: string | undefined;
	readonly team?: string | undefined;
	readonly owner?: string | undefined;
}

/** The bridge between two days as the API gives it: all steps in their order, empty ones too. */
export const readBridge = query("changes.bridgeOfApi", "readChanges", (context: Context, query: BridgeQuery): z.infer<typeof bridgeSchema> => {
	const { organisation } = context;
	const a = dayAsked(context, "a", query.a);
	const b = dayAsked(context, "b", query.b);
	if (a >= b) throw new Fault(400, "Bad request", `a (${formatDay(a)}) must be before b (${formatDay(b)}).`);
	const result = bridge(organisation.company, a, b, periodAsked(query.from, query.to), scopeOf(context, query.team, query.owner));
	const deal = (step: StepDeal) => ({
		id: organisation.deals[step.deal]?.id ?? "",
		amount: step.amount,
		before: step.rowA < 0 ? null : step.before,
		after: step.rowB < 0 ? null : step.after,
	});
	return {
		a: formatDay(a),
		b: formatDay(b),
		currency: organisation.company.rules.rates.base,
		opening: result.opening.amount,
		openingCount: result.opening.deals.length,
		steps: result.steps.map((step) => ({ kind: step.kind, count: step.deals.length, amount: step.amount, deals: step.deals.map(deal) })),
		closing: result.closing.amount,
		closingCount: result.closing.deals.length,
		lostOutside: { count: result.lostOutside.deals.length, amount: result.lostOutside.amount, deals: result.lostOutside.deals.map(deal) },
	};
});
