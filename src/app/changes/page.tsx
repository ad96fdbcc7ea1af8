import { faultScreen } from "@/app/server/faultScreen";
import { frameView } from "@/app/server/frame";
import { addressOf, restAddress, type SearchParams, sentenceQuery, wordsOf } from "@/app/server/query";
import { signedIn } from "@/platform/http/session";
import { ChangesScreen, NoPeriod } from "@/features/changes/ui/ChangesScreen";
import { ChangesTabs } from "@/features/changes/ui/ChangesTabs";
import { Differences } from "@/features/changes/ui/Differences";
import { Flow } from "@/features/changes/ui/Flow";
import { RiverScreen } from "@/features/changes/ui/river/RiverScreen";
import { TrendView } from "@/features/changes/ui/TrendView";
import { CHANGES_VIEWS } from "@/features/changes/ui/views";
import { Frame } from "@/ui/frame/Frame";
import { readDifferences } from "@/features/changes/server/readDifferences";
import { readFlow } from "@/features/changes/server/readFlow";
import { readNotes } from "@/features/changes/server/readNotes";
import { packedRiver, riverSpan } from "@/features/changes/server/readRiver";
import { readTrend } from "@/features/changes/server/readTrend";
import { readChanges } from "@/features/changes/server/readChanges";
import { resolveSentence } from "@/platform/viewpoint";
import { fieldOf } from "@/features/changes/server/slices";
import { goesWithPage } from "@/features/deals/server/packedDeals";

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
