import { faultScreen } from "@/app/server/faultScreen";
import { frameView } from "@/app/server/frame";
import { viewsOf } from "@/app/server/openingView";
import { addressOf, type SearchParams, viewpointQuery, wordsOf } from "@/app/server/query";
import { LOST_BY } from "@/features/accounts/server/lostDeals";
import { ACCOUNT_ORDERS, readAccounts } from "@/features/accounts/server/readAccounts";
import { AccountsPacked } from "@/features/accounts/ui/AccountsScreen";
import { AccountTabs } from "@/features/accounts/ui/AccountTabs";
import { signedIn } from "@/platform/http/session";
import { may } from "@/platform/rights";
import { resolveViewpoint } from "@/platform/viewpoint";
import { Frame } from "@/ui/frame/Frame";
import { pack } from "@/ui/packed";
import { rowsAsked } from "@/ui/parts/rows";

export const metadata = { title: "Accounts" };

export default async function AccountsPage({ searchParams }: { searchParams: SearchParams }) {
	const context = await signedIn(await addressOf("/accounts", searchParams));
	const views = await viewsOf(context, "accounts", searchParams);
	return faultScreen(context, async () => {
		const viewpoint = resolveViewpoint(context, await viewpointQuery(searchParams));
		const frame = await frameView(context, viewpoint);
		const { band, order, text, account, by, lost, limit } = await wordsOf(searchParams, ["band", "order", "text", "account", "by", "lost", "limit"]);
		const { view: kept = null } = await wordsOf(searchParams, ["view"]);
		const view = await readAccounts(context, viewpoint, {
			band: /^\d$/.test(band ?? "") ? Number(band) : null,
			order: ACCOUNT_ORDERS.find((one) => one === order),
			text,
			account,
			lostBy: LOST_BY.find((one) => one === by),
			lost,
			limit: rowsAsked(limit),
		});
		return (
			<Frame view={frame}>
				<AccountTabs current="list" kept={{ views, screen: "accounts", view: kept }} />
				<AccountsPacked packed={pack({ view, seen: frame.sentence.seen.day, mayAssign: may(context.actor, "assignTasks") && !viewpoint.seen.past })} />
			</Frame>
		);
	});
}
