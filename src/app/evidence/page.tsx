import { faultScreen } from "@/app/server/faultScreen";
import { frameView } from "@/app/server/frame";
import { addressOf, type SearchParams, viewpointQuery, wordsOf } from "@/app/server/query";
import { readEvidence } from "@/features/evidence/server/readEvidence";
import { EvidencePacked } from "@/features/evidence/ui/EvidenceScreen";
import { signedIn } from "@/platform/http/session";
import { resolveViewpoint } from "@/platform/viewpoint";
import { Frame } from "@/ui/frame/Frame";
import { pack } from "@/ui/packed";
import { rowsAsked } from "@/ui/parts/rows";

export const metadata = { title: "Evidence" };

export default async function EvidencePage({ searchParams }: { searchParams: SearchParams }) {
	const context = await signedIn(await addressOf("/evidence", searchParams));
	return faultScreen(context, async () => {
		const viewpoint = resolveViewpoint(context, await viewpointQuery(searchParams));
		const { limit } = await wordsOf(searchParams, ["limit"]);
		const frame = await frameView(context, viewpoint);
		return (
			<Frame view={frame} limited>
				<EvidencePacked packed={pack({ view: readEvidence(context, viewpoint, rowsAsked(limit)), seen: frame.sentence.seen.day })} />
			</Frame>
		);
	});
}
