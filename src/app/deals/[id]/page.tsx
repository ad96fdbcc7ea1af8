import { faultScreen } from "@/app/server/faultScreen";
import { frameView } from "@/app/server/frame";
import { addressOf, type SearchParams, sentenceQuery } from "@/app/server/query";
import { signedIn } from "@/platform/http/session";
import { formatDay } from "@/core/time/day";
import { Frame } from "@/ui/frame/Frame";
import { SheetPage } from "@/features/sheet/ui/SheetPage";
import { resolveSentence } from "@/platform/viewpoint";
import { readSheet } from "@/features/sheet/server/readSheet";

interface Props {
	readonly params: Promise<{ id: string }>;
	readonly searchParams: SearchParams;
}

export const metadata = { title: "Deal" };

export default async function DealPage({ params, searchParams }: Props) {
	const id = decodeURIComponent((await params).id);
	const context = await signedIn(await addressOf(`/deals/${encodeURIComponent(id)}`, searchParams));
	return faultScreen(context, async () => {
		const sentence = resolveSentence(context, await sentenceQuery(searchParams));
		const view = await readSheet(context, id, formatDay(sentence.seen.day), formatDay(sentence.against.day));
		return (
			<Frame view={await frameView(context, sentence)}>
				<SheetPage view={view} />
			</Frame>
		);
	});
}
