import { faultScreen } from "@/app/server/faultScreen";
import { frameView } from "@/app/server/frame";
import { viewsOf } from "@/app/server/openingView";
import { addressOf, type SearchParams, viewpointQuery, wordsOf } from "@/app/server/query";
import { parseDay } from "@/core/time/day";
import { ACTIVITY_SPANS, readActivities } from "@/features/accounts/server/readActivities";
import { AccountTabs } from "@/features/accounts/ui/AccountTabs";
import { ActivitiesScreen } from "@/features/accounts/ui/ActivitiesScreen";
import { signedIn } from "@/platform/http/session";
import { resolveViewpoint } from "@/platform/viewpoint";
import { Frame } from "@/ui/frame/Frame";
import { rowsAsked } from "@/ui/parts/rows";

export const metadata = { title: "Activities" };

export default async function ActivitiesPage({ searchParams }: { searchParams: SearchParams }) {
	const context = await signedIn(await addressOf("/accounts/activities", searchParams));
	const views = await viewsOf(context, "activities", searchParams);
	return faultScreen(context, async () => {
		const viewpoint = resolveViewpoint(context, await viewpointQuery(searchParams));
		const { view = null } = await wordsOf(searchParams, ["view"]);
		const { span, at, who, kind, account, limit } = await wordsOf(searchParams, ["span", "at", "who", "kind", "account", "limit"]);
		const asked = {
			span: ACTIVITY_SPANS.find((one) => one === span) ?? ("four" as const),
			at: at === undefined ? null : parseDay(at),
			who: who ?? null,
			kind: kind ?? null,
			account: account ?? "",
			limit: Math.min(200, rowsAsked(limit)),
		};
		return (
			<Frame view={await frameView(context, viewpoint)}>
				<AccountTabs current="activity" kept={{ views, screen: "activities", view }} />
				<ActivitiesScreen view={await readActivities(context, viewpoint, asked)} />
			</Frame>
		);
	});
}
