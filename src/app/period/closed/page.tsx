import { redirect } from "next/navigation";
import { faultScreen } from "@/app/server/faultScreen";
import { frameView } from "@/app/server/frame";
import { addressOf, type SearchParams, viewpointQuery, wordsOf } from "@/app/server/query";
import { formatRange } from "@/core/time/period";
import { periodToClose, readClose } from "@/features/closes/server/readClose";
import { CloseScreen } from "@/features/closes/ui/CloseScreen";
import { NoBounds } from "@/features/period/ui/PeriodScreen";
import { PeriodTabs } from "@/features/period/ui/PeriodTabs";
import { signedIn } from "@/platform/http/session";
import { resolveViewpoint, type ViewpointQuery } from "@/platform/viewpoint";
import { Frame } from "@/ui/frame/Frame";

export const metadata = { title: "How it ended" };

export default async function ClosedPage({ searchParams }: { searchParams: SearchParams }) {
	const context = await signedIn(await addressOf("/period/closed", searchParams));
	return faultScreen(context, async () => {
		const query = await viewpointQuery(searchParams);
		const viewpoint = resolveViewpoint(context, query);
		const { close } = await wordsOf(searchParams, ["close"]);
		const period = periodToClose(context, viewpoint);
		// The sentence says the period that the page tells of: while its own runs, the one before.
		if (period && formatRange(period) !== viewpoint.due.key)
			redirect(`/period/closed?${new URLSearchParams({ ...definedOf(query), due: formatRange(period) })}`);
		const view = await readClose(context, viewpoint, close, "looks");
		return (
			<Frame view={await frameView(context, viewpoint)}>
				<PeriodTabs current="closed" />
				{view ? <CloseScreen view={view} past={viewpoint.seen.past} /> : <NoBounds />}
			</Frame>
		);
	});
}

const definedOf = (query: ViewpointQuery) => Object.fromEntries(Object.entries(query).flatMap(([name, value]) => (value === undefined ? [] : [[name, value]])));
