import { faultScreen } from "@/app/server/faultScreen";
import { frameView } from "@/app/server/frame";
import { viewsOf } from "@/app/server/openingView";
import { addressOf, type SearchParams, viewpointQuery, wordsOf } from "@/app/server/query";
import { CARE } from "@/core/accounts/care";
import { AccountSlots } from "@/features/accountSlots";
import { readCare } from "@/features/accounts/server/readCare";
import { AccountTabs } from "@/features/accounts/ui/AccountTabs";
import { CareScreen } from "@/features/accounts/ui/CareScreen";
import { signedIn } from "@/platform/http/session";
import { resolveViewpoint } from "@/platform/viewpoint";
import { Frame } from "@/ui/frame/Frame";
import { rowsAsked } from "@/ui/parts/rows";

export const metadata = { title: "Care" };

export default async function CarePage({ searchParams }: { searchParams: SearchParams }) {
	const context = await signedIn(await addressOf("/accounts/care", searchParams));
	const views = await viewsOf(context, "care", searchParams);
	return faultScreen(context, async () => {
		const viewpoint = resolveViewpoint(context, await viewpointQuery(searchParams));
		const { view = null } = await wordsOf(searchParams, ["view"]);
		const { why, kind, territory, owner, limit } = await wordsOf(searchParams, ["why", "kind", "territory", "owner", "limit"]);
		const look = { why: CARE.find((one) => one === why), kind, territory, owner, limit: rowsAsked(limit) };
		return (
			<Frame view={await frameView(context, viewpoint)}>
				<AccountTabs current="care" kept={{ views, screen: "care", view }} />
				<AccountSlots>
					<CareScreen view={await readCare(context, viewpoint, look)} />
				</AccountSlots>
			</Frame>
		);
	});
}
