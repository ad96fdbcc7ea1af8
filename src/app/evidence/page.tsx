import { faultScreen } from "@/app/server/faultScreen";
import { frameView } from "@/app/server/frame";
import { addressOf, type SearchParams, sentenceQuery, wordsOf } from "@/app/server/query";
import { signedIn } from "@/platform/http/session";
import { rowsAsked } from "@/ui/parts/rows";
import { EvidenceScreen } from "@/features/evidence/ui/EvidenceScreen";
import { Frame } from "@/ui/frame/Frame";
import { readEvidence } from "@/features/evidence/server/readEvidence";
import { resolveSentence } from "@/platform/viewpoint";

export const metadata = { title: "Evidence" };

export default async function EvidencePage({ searchParams }: { searchParams: SearchParams }) {
	const context = await signedIn(await addressOf("/evidence", searchParams));
	return faultScreen(context, async () => {
		const sentence = resolveSentence(context, await sentenceQuery(searchParams));
		const { most } = await wordsOf(searchParams, ["most"]);
		const frame = await frameView(context, sentence);
		return (
			<Frame view={frame}>
				<EvidenceScreen view={readEvidence(context, sentence, rowsAsked(most))} seen={frame.sentence.seen.day} />
			</Frame>
		);
	});
}
