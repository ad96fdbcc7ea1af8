import { faultScreen } from "@/app/server/faultScreen";
import { frameView } from "@/app/server/frame";
import { addressOf, type SearchParams, viewpointQuery, wordsOf } from "@/app/server/query";
import { readTryGround } from "@/features/period/server/tryGround";
import { readTryLater } from "@/features/period/server/tryLater";
import { NoBounds } from "@/features/period/ui/PeriodScreen";
import { PeriodTabs } from "@/features/period/ui/PeriodTabs";
import { Tries } from "@/features/period/ui/Tries";
import type { Context } from "@/platform/context";
import { Fault } from "@/platform/fault";
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
				{ground ? <Tries ground={ground} later={later ? await laterOrNone(context, later) : null} /> : <NoBounds />}
			</Frame>
		);
	});
}

/** A kept try beside what came of it; none where it was taken away meanwhile. */
async function laterOrNone(context: Context, id: string) {
	try {
		return await readTryLater(context, id);
	} catch (error) {
		if (error instanceof Fault && error.status === 404) return null;
		throw error;
	}
}
