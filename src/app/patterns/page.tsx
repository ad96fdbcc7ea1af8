import { faultScreen } from "@/app/server/faultScreen";
import { frameView } from "@/app/server/frame";
import { addressOf, type SearchParams, viewpointQuery, wordsOf } from "@/app/server/query";
import { formatDay } from "@/core/time/day";
import { quarterOf } from "@/core/time/period";
import { PATTERN_KINDS } from "@/features/patterns/server/kinds";
import { lookAsked } from "@/features/patterns/server/looking";
import { glanceOutlook } from "@/features/patterns/server/readOutlook";
import { patternNamed, readPattern } from "@/features/patterns/server/readPattern";
import { Known } from "@/features/patterns/ui/Known";
import { Looking } from "@/features/patterns/ui/Looking";
import { MovedHere } from "@/features/patterns/ui/MovedHere";
import { OutlookScreen } from "@/features/patterns/ui/OutlookScreen";
import { PatternScreen } from "@/features/patterns/ui/PatternScreen";
import { PatternsTabs } from "@/features/patterns/ui/PatternsTabs";
import { signedIn } from "@/platform/http/session";
import { resolveViewpoint } from "@/platform/viewpoint";
import { Frame } from "@/ui/frame/Frame";

export const metadata = { title: "Patterns" };

const TABS = [{ key: "outlook", label: "Outlook" }, ...PATTERN_KINDS.map(({ key, label }) => ({ key, label }))];

export default async function PatternsPage({ searchParams }: { searchParams: SearchParams }) {
	const context = await signedIn(await addressOf("/patterns", searchParams));
	return faultScreen(context, async () => {
		const viewpoint = resolveViewpoint(context, await viewpointQuery(searchParams));
		const asked = await wordsOf(searchParams, ["show", "quarters", "lead", "by", "open"]);
		const { day } = viewpoint.seen;
		const { scope, label: whose } = viewpoint.whose;
		const { zone, fiscal } = context.organisation.company.rules;
		const frame = await frameView(context, viewpoint);
		const kind = patternNamed(asked.show);
		if (!kind) {
			const { answer, ...known } = await glanceOutlook(context, scope, viewpoint.due.period ?? quarterOf(day, fiscal), day);
			return (
				<Frame view={frame}>
					<PatternsTabs current="outlook" tabs={TABS} />
					<Known {...known} zone={zone.name} first={!answer} />
					{answer && (
						<OutlookScreen view={answer} due={viewpoint.due.label} whose={whose} seen={formatDay(day)}>
							<MovedHere revision={frame.revision} />
						</OutlookScreen>
					)}
				</Frame>
			);
		}
		const look = lookAsked(asked);
		const { found, behind } = await readPattern(context, kind.key, { scope, day, look, by: asked.by }, asked.open);
		const { answer: view, ...known } = found;
		const says = {
			middle: view && !view.looked ? view.about : <Looking {...look} />,
			corner: view && (
				<>
					<b>{view.rests[0]}</b> {view.rests[1]}
				</>
			),
		};
		return (
			<Frame view={frame} says={says}>
				<PatternsTabs current={kind.key} tabs={TABS} />
				<Known {...known} zone={zone.name} first={!view} />
				{view && <PatternScreen view={view} behind={behind} seen={formatDay(day)} />}
			</Frame>
		);
	});
}
