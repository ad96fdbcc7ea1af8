import { faultScreen } from "@/app/server/faultScreen";
import { frameView } from "@/app/server/frame";
import { addressOf, type SearchParams, viewpointQuery, wordsOf } from "@/app/server/query";
import { readTryGround, readTryLater } from "@/features/period/server/tries";
import { NoBounds } from "@/features/period/ui/PeriodScreen";
import { PeriodTabs } from "@/features/period/ui/PeriodTabs";
import { Tries } from "@/features/period/ui/Tries";
import { signedIn } from "@/platform/http/session";
import { resolveViewpoint } from "@/platform/viewpoint";
import { Frame } from "@/ui/frame/Frame";

export const metadata = { title: "Try it out" };

export default async function TriesPage({ searchParams }: { searchParams: SearchParams }) {
	const context = await signedIn(await addressOf("/period/tries", searchParams));
	return faultScreen(context, async () => {
		const viewpoint = resolveViewpoint(context, await viewpointQuery(searchParams));
		const { later } = await wordsOf(searchParams, ["later"]);
		const ground = await readTryGround(context, viewpoint);
		return (
			<Frame view={await frameView(context, viewpoint)}>
				<PeriodTabs current="tries" />
				{ground ? <Tries ground={ground} later={later ? await readTryLater(context, later) : null} /> : <NoBounds />}
			</Frame>
		);
	});
}
