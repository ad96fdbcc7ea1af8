import { packedRiver } from "@/features/changes";
import { goesWithPage } from "@/features/deals";
import { RiverTile } from "../ui/RiverTile";
import { NoPeriodTile } from "../ui/Tiles";
import { tile } from "./tile";

const SPANS = [
	{ value: "halves", label: "this quarter and the last" },
	{ value: "quarter", label: "this quarter" },
	{ value: "year", label: "a year back" },
	{ value: "against", label: "since the earlier day" },
];

/** The pipeline through time in one picture. */
export const riverTile = tile({
	key: "river",
	label: "River",
	about: "What came in, moved on and left, week by week, in one picture",
	size: { w: 12, h: 10 },
	settings: () => [{ name: "span", label: "Span", choices: SPANS }],
	show(context, viewpoint, settings) {
		const span = SPANS.find(({ value }) => value === settings.span)?.value ?? "halves";
		if (!viewpoint.due.period) return { title: "River", opens: null, node: <NoPeriodTile /> };
		const packed = goesWithPage(context, viewpoint) ? packedRiver(context, viewpoint, span).text : null;
		return {
			title: "River",
			opens: { path: "/changes", more: { show: "river", span } },
			node: <RiverTile packed={packed} span={span} revision={context.organisation.revision} />,
		};
	},
});
