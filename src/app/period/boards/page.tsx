import { faultScreen } from "@/app/server/faultScreen";
import { frameView } from "@/app/server/frame";
import { addressOf, type SearchParams, viewpointQuery } from "@/app/server/query";
import { listBoards } from "@/features/boards/server/boards";
import { BoardsList } from "@/features/boards/ui/BoardsList";
import { PeriodTabs } from "@/features/period/ui/PeriodTabs";
import { signedIn } from "@/platform/http/session";
import { resolveViewpoint } from "@/platform/viewpoint";
import { Frame } from "@/ui/frame/Frame";

export const metadata = { title: "Boards" };

export default async function BoardsPage({ searchParams }: { searchParams: SearchParams }) {
	const context = await signedIn(await addressOf("/period/boards", searchParams));
	return faultScreen(context, async () => {
		const viewpoint = resolveViewpoint(context, await viewpointQuery(searchParams));
		return (
			<Frame view={await frameView(context, viewpoint)}>
				<PeriodTabs current="boards" />
				<BoardsList boards={await listBoards(context)} />
			</Frame>
		);
	});
}
