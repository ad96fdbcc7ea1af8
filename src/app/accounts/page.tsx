import { faultScreen } from "@/app/server/faultScreen";
import { frameView } from "@/app/server/frame";
import { addressOf, type SearchParams, sentenceQuery } from "@/app/server/query";
import { signedIn } from "@/app/server/session";
import { AccountsScreen } from "@/ui/screens/accounts/AccountsScreen";
import { Frame } from "@/ui/screens/frame/Frame";
import { readAccounts } from "@/usecases/readAccounts";
import { may } from "@/usecases/rights";
import { resolveSentence } from "@/usecases/sentence";

export const metadata = { title: "Accounts" };

export default async function AccountsPage({ searchParams }: { searchParams: SearchParams }) {
	const context = await signedIn(await addressOf("/accounts", searchParams));
	return faultScreen(context, async () => {
		const sentence = resolveSentence(context, await sentenceQuery(searchParams));
		const frame = await frameView(context, sentence);
		return (
			<Frame view={frame}>
				<AccountsScreen
					view={await readAccounts(context, sentence)}
					seen={frame.sentence.seen.day}
					mayAssign={may(context.actor, "assignTasks") && !sentence.seen.past}
				/>
			</Frame>
		);
	});
}
