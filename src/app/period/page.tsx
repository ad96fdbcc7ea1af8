import { faultScreen } from "@/app/server/faultScreen";
import { frameView } from "@/app/server/frame";
import { addressOf, type SearchParams, viewpointQuery, wordsOf } from "@/app/server/query";
import { editChoices } from "@/features/deals/server/editChoices";
import { largestDeals } from "@/features/deals/server/readDeals";
import { groupingAsked, readPeriod } from "@/features/period/server/readPeriod";
import { NoBounds, PeriodPacked } from "@/features/period/ui/PeriodScreen";
import { PeriodTabs } from "@/features/period/ui/PeriodTabs";
import { PeriodSlots } from "@/features/periodSlots";
import { signedIn } from "@/platform/http/session";
import { may } from "@/platform/rights";
import { resolveViewpoint } from "@/platform/viewpoint";
import { Frame } from "@/ui/frame/Frame";
import { pack } from "@/ui/packed";

export const metadata = { title: "Period" };

/** deals to be re-dated that are shown at once, the largest first */
const SHOWN = 200;

export default async function PeriodPage({ searchParams }: { searchParams: SearchParams }) {
	const context = await signedIn(await addressOf("/period", searchParams));
	return faultScreen(context, async () => {
		const query = await viewpointQuery(searchParams);
		const { by } = await wordsOf(searchParams, ["by"]);
		const viewpoint = resolveViewpoint(context, query);
		const view = await readPeriod(context, viewpoint, groupingAsked(by));
		const frame = await frameView(context, viewpoint);
		return (
			<Frame view={frame} limited>
				<PeriodTabs current="stand" />
				{view ? (
					<PeriodSlots>
						<PeriodPacked
							packed={pack({
								view,
								frame: frame.sentence,
								revision: frame.revision,
								carried: largestDeals(context, viewpoint, SHOWN, true),
								undated: largestDeals(context, resolveViewpoint(context, { ...query, due: "none" }), SHOWN),
								choices: may(context.actor, "editDeals") && !viewpoint.seen.past ? editChoices(context) : null,
							})}
						/>
					</PeriodSlots>
				) : (
					<NoBounds />
				)}
			</Frame>
		);
	});
}
