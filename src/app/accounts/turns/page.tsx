import { faultScreen } from "@/app/server/faultScreen";
import { frameView } from "@/app/server/frame";
import { viewsOf } from "@/app/server/openingView";
import { addressOf, type SearchParams, viewpointQuery, wordsOf } from "@/app/server/query";
import { readTurns } from "@/features/accounts/server/readTurns";
import { AccountTabs } from "@/features/accounts/ui/AccountTabs";
import { TurnsScreen } from "@/features/accounts/ui/TurnsScreen";
import { signedIn } from "@/platform/http/session";
import { resolveViewpoint } from "@/platform/viewpoint";
import { Frame } from "@/ui/frame/Frame";
import { rowsAsked } from "@/ui/parts/rows";

export const metadata = { title: "Whose turn" };

export default async function TurnsPage({ searchParams }: { searchParams: SearchParams }) {
	const context = await signedIn(await addressOf("/accounts/turns", searchParams));
	const views = await viewsOf(context, "turns", searchParams);
	return faultScreen(context, async () => {
		const viewpoint = resolveViewpoint(context, await viewpointQuery(searchParams));
		const { view = null } = await wordsOf(searchParams, ["view"]);
		const { limit } = await wordsOf(searchParams, ["limit"]);
		return (
			<Frame view={await frameView(context, viewpoint)}>
				<AccountTabs current="turns" kept={{ views, screen: "turns", view }} />
				<TurnsScreen view={await readTurns(context, viewpoint, rowsAsked(limit))} />
			</Frame>
		);
	});
}
