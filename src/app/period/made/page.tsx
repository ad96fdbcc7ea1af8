import { faultScreen } from "@/app/server/faultScreen";
import { frameView } from "@/app/server/frame";
import { addressOf, type SearchParams, viewpointQuery, wordsOf } from "@/app/server/query";
import { formatDay } from "@/core/time/day";
import { readMadeOf } from "@/features/period/server/madeOf";
import { MADE } from "@/features/period/table/figures";
import { MadeScreen } from "@/features/period/ui/MadeScreen";
import { NoBounds } from "@/features/period/ui/PeriodScreen";
import { PeriodTabs } from "@/features/period/ui/PeriodTabs";
import { signedIn } from "@/platform/http/session";
import { resolveViewpoint } from "@/platform/viewpoint";
import { Frame } from "@/ui/frame/Frame";
import { rowsAsked } from "@/ui/parts/rows";

export const metadata = { title: "How this figure is made" };

export default async function MadePage({ searchParams }: { searchParams: SearchParams }) {
	const context = await signedIn(await addressOf("/period/made", searchParams));
	return faultScreen(context, async () => {
		const viewpoint = resolveViewpoint(context, await viewpointQuery(searchParams));
		const { of, limit } = await wordsOf(searchParams, ["of", "limit"]);
		const view = await readMadeOf(context, viewpoint, MADE.find((one) => one === of) ?? "gap", rowsAsked(limit));
		const { period } = viewpoint.due;
		return (
			<Frame view={await frameView(context, viewpoint)}>
				<PeriodTabs current="stand" />
				{view && period ? (
					<MadeScreen view={view} days={{ from: formatDay(period.start), to: formatDay(period.end), seen: formatDay(viewpoint.seen.day) }} />
				) : (
					<NoBounds />
				)}
			</Frame>
		);
	});
}
