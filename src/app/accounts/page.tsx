import { faultScreen } from "@/app/server/faultScreen";
import { frameView } from "@/app/server/frame";
import { addressOf, type SearchParams, sentenceQuery, wordsOf } from "@/app/server/query";
import { signedIn } from "@/app/server/session";
import { rowsAsked } from "@/ui/parts/rows";
import { AccountsScreen } from "@/ui/screens/accounts/AccountsScreen";
import { Frame } from "@/ui/screens/frame/Frame";
import { LOST_BY } from "@/usecases/accounts/lostDeals";
import { ACCOUNT_ORDERS, readAccounts } from "@/usecases/accounts/readAccounts";
import { may } from "@/usecases/rights";
import { resolveSentence } from "@/usecases/sentence";

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
