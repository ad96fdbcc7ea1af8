import { faultScreen } from "@/app/server/faultScreen";
import { frameView } from "@/app/server/frame";
import { addressOf, type SearchParams, viewpointQuery, wordsOf } from "@/app/server/query";
import { quarterOf } from "@/core/time/period";
import { readOutlook } from "@/features/patterns/server/readOutlook";
import { categoryAsked, MOST_QUARTERS, readAccuracy, readForetelling, readStageTimes, STAGE_GROUPS, USUAL_LOOK } from "@/features/patterns/server/readPatterns";
import { AccuracyScreen } from "@/features/patterns/ui/AccuracyScreen";
import { ForetellScreen } from "@/features/patterns/ui/ForetellScreen";
import { OutlookScreen } from "@/features/patterns/ui/OutlookScreen";
import { PatternsTabs } from "@/features/patterns/ui/PatternsTabs";
import { StageTimesScreen } from "@/features/patterns/ui/StageTimesScreen";
import { PATTERN_SCREENS } from "@/features/patterns/ui/screens";
import { signedIn } from "@/platform/http/session";
import { resolveViewpoint } from "@/platform/viewpoint";
import { Frame } from "@/ui/frame/Frame";

export const metadata = { title: "Patterns" };

/** A whole number of an address within bounds; the usual one where it says none that can be read. */
const numberAsked = (text: string | undefined, usual: number, most: number) =>
	/^\d{1,3}$/.test(text ?? "") ? Math.min(most, Math.max(1, Number(text))) : usual;

export default async function PatternsPage({ searchParams }: { searchParams: SearchParams }) {
	const context = await signedIn(await addressOf("/patterns", searchParams));
	return faultScreen(context, async () => {
		const viewpoint = resolveViewpoint(context, await viewpointQuery(searchParams));
		const asked = await wordsOf(searchParams, ["show", "quarters", "lead", "category", "by"]);
		const screen = PATTERN_SCREENS.find(({ key }) => key === asked.show)?.key ?? "outlook";
		const { day } = viewpoint.seen;
		const { scope } = viewpoint.whose;
		const look = { quarters: numberAsked(asked.quarters, USUAL_LOOK.quarters, MOST_QUARTERS), lead: numberAsked(asked.lead, USUAL_LOOK.lead, 60) };
		const by = STAGE_GROUPS.find((one) => one === asked.by) ?? "rep";
		const period = viewpoint.due.period ?? quarterOf(day, context.organisation.company.rules.fiscalStart);
		const body =
			screen === "outlook" ? (
				<OutlookScreen view={await readOutlook(context, scope, period, day)} due={viewpoint.due.words} whose={viewpoint.whose.words} />
			) : screen === "foretell" ? (
				<ForetellScreen view={readForetelling(context, look, day)} look={look} />
			) : screen === "commits" ? (
				<AccuracyScreen
					view={readAccuracy(context, scope, categoryAsked(asked.category), look, day)}
					look={look}
					whose={viewpoint.whose.words}
					currency={context.organisation.company.rules.rates.base}
				/>
			) : (
				<StageTimesScreen items={readStageTimes(context, by, day)} by={by} stages={context.organisation.company.rules.stages.map(({ name }) => name)} />
			);
		return (
			<Frame view={await frameView(context, viewpoint)}>
				<PatternsTabs current={screen} />
				{body}
			</Frame>
		);
	});
}
