import { faultScreen } from "@/app/server/faultScreen";
import { frameView } from "@/app/server/frame";
import { addressOf, restAddress, type SearchParams, viewpointQuery, wordsOf } from "@/app/server/query";
import { readChanges } from "@/features/changes/server/readChanges";
import { readDifferences } from "@/features/changes/server/readDifferences";
import { readFlow } from "@/features/changes/server/readFlow";
import { readNotes } from "@/features/changes/server/readNotes";
import { packedRiver, riverSpan } from "@/features/changes/server/readRiver";
import { readTrend } from "@/features/changes/server/readTrend";
import { sliceAsked } from "@/features/changes/server/slices";
import { ChangesPacked, NoPeriod } from "@/features/changes/ui/ChangesScreen";
import { ChangesTabs } from "@/features/changes/ui/ChangesTabs";
import { Differences } from "@/features/changes/ui/Differences";
import { Flow } from "@/features/changes/ui/Flow";
import { RiverScreen } from "@/features/changes/ui/river/RiverScreen";
import { TrendView } from "@/features/changes/ui/TrendView";
import { CHANGES_VIEWS } from "@/features/changes/ui/views";
import { goesWithPage } from "@/features/deals/server/packedDeals";
import { signedIn } from "@/platform/http/session";
import { resolveViewpoint } from "@/platform/viewpoint";
import { Frame } from "@/ui/frame/Frame";
import { pack } from "@/ui/packed";

export const metadata = { title: "Changes" };

/** How many lines a step shows before all are asked for. */
const SHOWN = 60;
const SHOWS = CHANGES_VIEWS.map((view) => view.key);

export default async function ChangesPage({ searchParams }: { searchParams: SearchParams }) {
	const context = await signedIn(await addressOf("/changes", searchParams));
	return faultScreen(context, async () => {
		const { show: asked, span, order, all, by } = await wordsOf(searchParams, ["show", "span", "order", "all", "by"]);
		const show = SHOWS.find((key) => key === asked) ?? "bridge";
		const query = await viewpointQuery(searchParams);
		const viewpoint = resolveViewpoint(context, query);
		const { sentence: frame, ...rest } = await frameView(context, viewpoint);
		const bridge = async () => {
			const { part, step } = await wordsOf(searchParams, ["part", "step"]);
			const view = readChanges(context, viewpoint, { by: sliceAsked(by), part, step, all: all !== undefined, limit: SHOWN });
			return <ChangesPacked packed={pack({ view, notes: view ? await readNotes(context, viewpoint, view) : {}, frame })} />;
		};
		const body = async () => {
			if (show === "bridge") return bridge();
			const differences = show === "deals" ? readDifferences(context, viewpoint, { order, ...(all ? {} : { limit: SHOWN }) }) : null;
			const trend = show === "trend" ? await readTrend(context, viewpoint, by) : null;
			const flow = show === "flow" ? readFlow(context, viewpoint) : null;
			if (differences) return <Differences view={differences} frame={frame} />;
			if (show === "river" && viewpoint.due.period) {
				const rest = restAddress("/changes/river", { ...query, span: riverSpan(span) }, context.organisation.revision);
				return <RiverScreen packed={goesWithPage(context, viewpoint) ? packedRiver(context, viewpoint, span).text : null} rest={rest} frame={frame} />;
			}
			if (trend) return <TrendView view={trend} frame={frame} />;
			return flow ? <Flow view={flow} frame={frame} /> : <NoPeriod />;
		};
		return (
			<Frame view={{ sentence: frame, ...rest }} limited>
				<ChangesTabs current={show} />
				{await body()}
			</Frame>
		);
	});
}
