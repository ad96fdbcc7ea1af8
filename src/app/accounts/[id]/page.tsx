import { faultScreen } from "@/app/server/faultScreen";
import { frameView } from "@/app/server/frame";
import { addressOf, type SearchParams, viewpointQuery, wordsOf } from "@/app/server/query";
import { AccountSlots } from "@/features/accountSlots";
import { readAccountPage } from "@/features/accounts/server/accountPage";
import { AccountScreen } from "@/features/accounts/ui/AccountScreen";
import { signedIn } from "@/platform/http/session";
import { resolveViewpoint } from "@/platform/viewpoint";
import { Frame } from "@/ui/frame/Frame";

interface Props {
	readonly params: Promise<{ id: string }>;
	readonly searchParams: SearchParams;
}

export const metadata = { title: "Account" };

/** so many entries of the log come with the page */
const ENTRIES = 40;
const MOST_ENTRIES = 2000;

export default async function AccountPage({ params, searchParams }: Props) {
	const id = decodeURIComponent((await params).id);
	const context = await signedIn(await addressOf(`/accounts/${encodeURIComponent(id)}`, searchParams));
	return faultScreen(context, async () => {
		const viewpoint = resolveViewpoint(context, await viewpointQuery(searchParams));
		const { kind, person, deal, q, limit } = await wordsOf(searchParams, ["kind", "person", "deal", "q", "limit"]);
		const entries = /^\d{1,4}$/.test(limit ?? "") ? Math.min(MOST_ENTRIES, Math.max(1, Number(limit))) : ENTRIES;
		const view = await readAccountPage(context, viewpoint, id, { kind, person, deal, q, limit: entries });
		return (
			<Frame view={await frameView(context, viewpoint)}>
				<AccountSlots>
					<AccountScreen view={view} />
				</AccountSlots>
			</Frame>
		);
	});
}
