import { formatDay } from "@/core/time/day";
import { query } from "@/platform/command";
import type { Context } from "@/platform/context";
import { notFound } from "@/platform/fault";
import type { BehindView, PatternView } from "../table/view";
import type { Asked } from "./book";
import { type FindingOrProgress, findingNow, findingOrProgress } from "./find";
import type { Given } from "./findings";
import { patternNamed } from "./findings/view";
import { idsOf } from "./scopes";

export { patternNamed };

const givenOf = ({ organisation }: Context, show: string, { scope, day, look, by }: Asked): Given => ({
	show,
	scope: idsOf(organisation, scope),
	day: formatDay(day),
	quarters: look.quarters,
	lead: look.lead,
	by: by ?? null,
});

/** What one view of the past says, and the deals behind the figure that is opened. */
export const readPattern = query(
	"patterns.read",
	"readPatterns",
	async (context: Context, show: string, asked: Asked, open?: string): Promise<{ found: FindingOrProgress<PatternView>; behind: BehindView | null }> => {
		if (!patternNamed(show)) throw notFound("view", show);
		const given = givenOf(context, show, asked);
		const found = await findingOrProgress<PatternView>(context, "view", given);
		return { found, behind: open && found.answer ? await findingNow<BehindView | null>(context, "behind", { ...given, open }) : null };
	},
);

/** The view for whoever waits for all that there is: a file. */
export const readPatternNow = query("patterns.readNow", "readPatterns", async (context: Context, show: string, asked: Asked): Promise<PatternView> => {
	if (!patternNamed(show)) throw notFound("view", show);
	return findingNow<PatternView>(context, "view", givenOf(context, show, asked));
});
