import { faultScreen } from "@/app/server/faultScreen";
import { frameView } from "@/app/server/frame";
import { addressOf, restAddress, type SearchParams, sentenceQuery, wordsOf } from "@/app/server/query";
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
import { readNotes } from "@/usecases/changes/readNotes";
import { packedRiver, riverSpan } from "@/usecases/changes/readRiver";
import { readTrend } from "@/usecases/changes/readTrend";
import { readChanges } from "@/usecases/readChanges";
import { resolveSentence } from "@/usecases/sentence";
import { fieldOf } from "@/usecases/slices";
import { goesWithPage } from "@/usecases/table/packedDeals";

export const metadata = { title: "Changes" };

/** How many lines a step shows before all are asked for. */
const SHOWN = 60;
const SHOWS = CHANGES_VIEWS.map((view) => view.key);

export default async function ChangesPage({ searchParams }: { searchParams: SearchParams }) {
	const context = await signedIn(await addressOf("/changes", searchParams));
	return faultScreen(context, async () => {
		const { show: asked, span, order, all, by } = await wordsOf(searchParams, ["show", "span", "order", "all", "by"]);
		const show = SHOWS.find((key) => key === asked) ?? "bridge";
		const query = await sentenceQuery(searchParams);
		const sentence = resolveSentence(context, query);
		const { sentence: frame, ...rest } = await frameView(context, sentence);
		const bridge = async () => {
			const { part, step } = await wordsOf(searchParams, ["part", "step"]);
			const view = readChanges(context, sentence, { by: fieldOf(by), part, step, all: all !== undefined, most: SHOWN });
			return <ChangesScreen view={view} notes={view ? await readNotes(context, sentence, view) : {}} frame={frame} />;
		};
		const body = async () => {
			if (show === "bridge") return bridge();
			const differences = show === "deals" ? readDifferences(context, sentence, { order, ...(all ? {} : { most: SHOWN }) }) : null;
			const trend = show === "trend" ? await readTrend(context, sentence, by) : null;
			const flow = show === "flow" ? readFlow(context, sentence) : null;
			if (differences) return <Differences view={differences} frame={frame} />;
			if (show === "river" && sentence.due.period) {
				const rest = restAddress("/changes/river", { ...query, span: riverSpan(span) }, context.memory.revision);
				return <RiverScreen packed={goesWithPage(context, sentence) ? packedRiver(context, sentence, span) : null} rest={rest} frame={frame} />;
			}
			if (trend) return <TrendView view={trend} frame={frame} />;
			return flow ? <Flow view={flow} frame={frame} /> : <NoPeriod />;
		};
		return (
			<Frame view={{ sentence: frame, ...rest }}>
				<ChangesTabs current={show} />
				{await body()}
			</Frame>
		);
	});
}
