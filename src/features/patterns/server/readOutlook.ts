import { z } from "zod";
import type { Scope } from "@/core/bridge/scope";
import { type Day, formatDay } from "@/core/time/day";
import { ALWAYS, type Period } from "@/core/time/period";
import { lookup, query } from "@/platform/command";
import type { Context } from "@/platform/context";
import { idSchema } from "@/platform/input";
import { reachDealOn } from "@/platform/reachDeal";
import { resolveViewpoint, type Viewpoint } from "@/platform/viewpoint";
import type { BehindView } from "../table/view";
import { type FindingOrProgress, findingNow, findingOrProgress } from "./find";
import type { Given } from "./findings";
import type { MovedView } from "./findings/moved";
import type { OutlookAnswer } from "./findings/outlook";
import { idsOf } from "./scopes";

export type { MovedView } from "./findings/moved";
export type { OutlookAnswer, OutlookView } from "./findings/outlook";

/** How a finding of a period for some people is asked for. */
export const givenOf = ({ organisation }: Context, scope: Scope, period: Period, day: Day): Given => ({
	scope: idsOf(organisation, scope),
	from: formatDay(period.start),
	to: formatDay(period.end),
	day: formatDay(day),
});

/** Where a period will end for some people, with all that there is: for whoever waits for it. */
export const readOutlook = query(
	"patterns.outlook",
	"readPatterns",
	(context: Context, scope: Scope, period: Period, day: Day): Promise<OutlookAnswer> =>
		findingNow(context, "outlook", { ...givenOf(context, scope, period, day), whole: true }),
);

/** The same as it is known, at once. */
export const glanceOutlook = query(
	"patterns.glance",
	"readPatterns",
	(context: Context, scope: Scope, period: Period, day: Day): Promise<FindingOrProgress<OutlookAnswer>> =>
		findingOrProgress(context, "outlook", givenOf(context, scope, period, day)),
);

/** All that there is of it, or how far it is: for a screen that shows what there is until then. */
export const outlookOnTheWay = query(
	"patterns.onTheWay",
	"readPatterns",
	(context: Context, scope: Scope, period: Period, day: Day): Promise<FindingOrProgress<OutlookAnswer>> =>
		findingOrProgress(context, "outlook", { ...givenOf(context, scope, period, day), whole: true }),
);

export const viewpointInput = z.object({
	whose: z.string().optional(),
	due: z.string().optional(),
	seen: z.string().optional(),
	against: z.string().optional(),
});

export const periodOf = ({ due }: Viewpoint): Period => due.period ?? ALWAYS;

export interface OutlookHere {
	readonly outlook: FindingOrProgress<OutlookAnswer>;
	/** how it moved since the earlier day */
	readonly moved: FindingOrProgress<MovedView>;
	readonly againstWords: string;
}

/** The outlook of a sentence, and how it moved: asked for by a screen once it is there. */
export const outlookHere = lookup({
	name: "patterns.outlookHere",
	right: "readPatterns",
	input: viewpointInput,
	async run({ context, input }): Promise<OutlookHere> {
		const viewpoint = resolveViewpoint(context, input);
		const given = givenOf(context, viewpoint.whose.scope, periodOf(viewpoint), viewpoint.seen.day);
		return {
			outlook: await findingOrProgress<OutlookAnswer>(context, "outlook", given),
			moved: await findingOrProgress<MovedView>(context, "moved", { ...given, against: formatDay(viewpoint.against.day) }),
			againstWords: viewpoint.against.label,
		};
	},
});

/** The past deals behind the chance of an open one, of which those are named that whoever asks reaches. */
export const comparablesOfDeal = lookup({
	name: "patterns.comparables",
	right: "readPatterns",
	input: viewpointInput.extend({ dealId: idSchema }),
	async run({ context, input: { dealId, ...sentence } }): Promise<BehindView> {
		const viewpoint = resolveViewpoint(context, sentence);
		reachDealOn(context, dealId, viewpoint.seen.day);
		return findingNow<BehindView>(context, "comparables", { ...givenOf(context, null, periodOf(viewpoint), viewpoint.seen.day), dealId });
	},
});
