import { faultScreen } from "@/app/server/faultScreen";
import { frameView } from "@/app/server/frame";
import { addressOf, type SearchParams, sentenceQuery, wordsOf } from "@/app/server/query";
import { signedIn } from "@/platform/http/session";
import { rowsAsked } from "@/ui/parts/rows";
import { AccountsScreen } from "@/features/accounts/ui/AccountsScreen";
import { Frame } from "@/ui/frame/Frame";
import { LOST_BY } from "@/features/accounts/server/lostDeals";
import { ACCOUNT_ORDERS, readAccounts } from "@/features/accounts/server/readAccounts";
import { may } from "@/platform/rights";
import { resolveSentence } from "@/platform/viewpoint";

export const metadata = { title: "Accounts" };

export default async function AccountsPage({ searchParams }: { searchParams: SearchParams }) {
	const context = await signedIn(await addressOf("/accounts", searchParams));
	return faultScreen(context, async () => {
		const sentence = resolveSentence(context, await sentenceQuery(searchParams));
		const frame = await frameView(context, sentence);
		const { band, order, text, account, by, lost, most } = await wordsOf(searchParams, ["band", "order", "text", "account", "by", "lost", "most"]);
		const view = await readAccounts(context, sentence, {
			band: /^\d$/.test(band ?? "") ? Number(band) : null,
			order: ACCOUNT_ORDERS.find((one) => one === order),
			text,
			account,
			lostBy: LOST_BY.find((one) => one === by),
			lost,
			most: rowsAsked(most),
		});
		return (
			<Frame view={frame}>
				<AccountsScreen view={view} seen={frame.sentence.seen.day} mayAssign={may(context.actor, "assignTasks") && !sentence.seen.past} />
			</Frame>
		);
	});
}
