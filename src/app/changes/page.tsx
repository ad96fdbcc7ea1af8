import { faultScreen } from "@/app/server/faultScreen";
import { frameView } from "@/app/server/frame";
import { addressOf, type SearchParams, sentenceQuery, wordsOf } from "@/app/server/query";
import { signedIn } from "@/app/server/session";
import { ChangesScreen, NoPeriod } from "@/ui/screens/changes/ChangesScreen";
import { ChangesTabs } from "@/ui/screens/changes/ChangesTabs";
import { Differences } from "@/ui/screens/changes/Differences";
import { Flow } from "@/ui/screens/changes/Flow";
import { RiverScreen } from "@/ui/screens/changes/river/RiverScreen";
import { TrendView } from "@/ui/screens/changes/TrendView";
import { CHANGES_VIEWS } from "@/ui/screens/changes/views";
import { Frame } from "@/ui/screens/frame/Frame";
import { readDifferences } from "@/usecases/changes/readDifferences";
import { readFlow } from "@/usecases/changes/readFlow";
import { readRiver } from "@/usecases/changes/readRiver";
import { readTrend } from "@/usecases/changes/readTrend";
import { readChanges } from "@/usecases/readChanges";
import { resolveSentence } from "@/usecases/sentence";

export const metadata = { title: "Changes" };

const SHOWS = CHANGES_VIEWS.map((view) => view.key);

export default async function ChangesPage({ searchParams }: { searchParams: SearchParams }) {
	const context = await signedIn(await addressOf("/changes", searchParams));
	return faultScreen(context, async () => {
		const { show: asked, span } = await wordsOf(searchParams, ["show", "span"]);
		const show = SHOWS.find((key) => key === asked) ?? "bridge";
		const sentence = resolveSentence(context, await sentenceQuery(searchParams));
		const { sentence: frame, ...rest } = await frameView(context, sentence);
		const body = () => {
			if (show === "bridge") return <ChangesScreen view={readChanges(context, sentence)} frame={frame} />;
			const differences = show === "deals" ? readDifferences(context, sentence) : null;
			const trend = show === "trend" ? readTrend(context, sentence) : null;
			const flow = show === "flow" ? readFlow(context, sentence) : null;
			if (differences) return <Differences view={differences} frame={frame} />;
			const river = show === "river" ? readRiver(context, sentence, span) : null;
			if (river) return <RiverScreen view={river} frame={frame} />;
			if (trend) return <TrendView view={trend} frame={frame} />;
			return flow ? <Flow view={flow} frame={frame} /> : <NoPeriod />;
		};
		return (
			<Frame view={{ sentence: frame, ...rest }}>
				<ChangesTabs current={show} />
				{body()}
			</Frame>
		);
	});
}
