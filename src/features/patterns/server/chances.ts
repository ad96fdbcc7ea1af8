import { lookup } from "@/platform/command";
import { resolveViewpoint } from "@/platform/viewpoint";
import { findingOrProgress } from "./find";
import type { OutlookAnswer } from "./findings/outlook";
import { givenOf, periodOf, viewpointInput } from "./readOutlook";

/** The chances of the deals of a sentence that are due in its period, by what came of comparable ones; none where that can’t be said. */
export const chancesHere = lookup({
	name: "patterns.chancesHere",
	right: "readPatterns",
	input: viewpointInput,
	async run({ context, input }): Promise<{ chances: Readonly<Record<string, number>>; underway: boolean }> {
		const asked = resolveViewpoint(context, input);
		// Of deals of any period those are foretold that are due in the present one.
		const viewpoint = asked.due.period ? asked : resolveViewpoint(context, { ...input, due: undefined });
		const given = givenOf(context, viewpoint.whose.scope, periodOf(viewpoint), viewpoint.seen.day);
		const { answer, progress } = await findingOrProgress<OutlookAnswer>(context, "outlook", { ...given, whole: true });
		const due = answer?.available ? answer.deals.filter((deal) => deal.due) : [];
		return { chances: Object.fromEntries(due.map(({ id, chance }) => [id, chance])), underway: progress !== null };
	},
});
