import { faultScreen } from "@/app/server/faultScreen";
import { frameView } from "@/app/server/frame";
import { viewsOf } from "@/app/server/openingView";
import { addressOf, type SearchParams, viewpointQuery, wordsOf } from "@/app/server/query";
import { readTerritories } from "@/features/accounts/server/readTerritories";
import { AccountTabs } from "@/features/accounts/ui/AccountTabs";
import { TerritoriesScreen } from "@/features/accounts/ui/TerritoriesScreen";
import { signedIn } from "@/platform/http/session";
import { resolveViewpoint } from "@/platform/viewpoint";
import { Frame } from "@/ui/frame/Frame";

export const metadata = { title: "Territories" };

export default async function TerritoriesPage({ searchParams }: { searchParams: SearchParams }) {
	const context = await signedIn(await addressOf("/accounts/territories", searchParams));
	const views = await viewsOf(context, "territories", searchParams);
	return faultScreen(context, async () => {
		const { view = null } = await wordsOf(searchParams, ["view"]);
		const viewpoint = resolveViewpoint(context, await viewpointQuery(searchParams));
		return (
			<Frame view={await frameView(context, viewpoint)}>
				<AccountTabs current="territories" kept={{ views, screen: "territories", view }} />
				<TerritoriesScreen view={await readTerritories(context, viewpoint)} />
			</Frame>
		);
	});
}
