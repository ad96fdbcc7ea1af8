import { faultScreen } from "@/app/server/faultScreen";
import { frameView } from "@/app/server/frame";
import { addressOf, type SearchParams, sentenceQuery } from "@/app/server/query";
import { signedIn } from "@/app/server/session";
import { ChangesScreen } from "@/ui/screens/changes/ChangesScreen";
import { Frame } from "@/ui/screens/frame/Frame";
import { readChanges } from "@/usecases/readChanges";
import { resolveSentence } from "@/usecases/sentence";

export const metadata = { title: "Changes" };

export default async function ChangesPage({ searchParams }: { searchParams: SearchParams }) {
	const context = await signedIn(await addressOf("/changes", searchParams));
	return faultScreen(context, async () => {
		const sentence = resolveSentence(context, await sentenceQuery(searchParams));
		const frame = await frameView(context, sentence);
		return (
			<Frame view={frame}>
				<ChangesScreen view={readChanges(context, sentence)} frame={frame.sentence} />
			</Frame>
		);
	});
}
