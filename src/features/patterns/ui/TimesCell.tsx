import { LEAST } from "@/core/statistics/wilson";
import type { Curve, Times } from "../table/view";

const SPAN = 90;
const HIGH = 100;
const TICK = 12;

/** A falling line: what goes on after each length. */
function points(curve: Curve, end: number): string {
	const steps = curve.flatMap(({ length, share }, i) => {
		const before = HIGH * (1 - (curve[i - 1]?.share ?? 1));
		return [`${Math.min(SPAN, length)},${before}`, `${Math.min(SPAN, length)},${HIGH * (1 - share)}`];
	});
	return ["0,0", ...steps, `${Math.min(SPAN, end)},${HIGH * (1 - (curve.at(-1)?.share ?? 1))}`].join(" ");
}

/** What goes on after a length. */
const shareAt = (curve: Curve, length: number) => curve.findLast((point) => point.length <= length)?.share ?? 1;

/** Median and restricted mean with the curve of what goes on, against everybody's; visits under way are ticks on it, and are said beside. */
export function TimesCell({ finished, unfinished, mean, upTo, median, interval, curve, lasting, all }: Times) {
	const visits = finished + unfinished;
	if (visits < LEAST) return <span className="third">{visits}: too few</span>;
	const last = curve.at(-1)?.length ?? 0;
	return (
		<span
			className="times"
			title={`${finished} finished, ${unfinished} under way; 95% interval of the median: ${interval.low ?? 0} to ${interval.high ?? "beyond the longest seen"} working days`}
		>
			<b>{median === null ? "not reached" : `${median} d`}</b>{" "}
			<span className="tiny second text-nowrap">{mean !== null && upTo !== null && `${mean.toFixed(1)} of the first ${upTo} d`}</span>
			<svg viewBox={`0 0 ${SPAN} ${HIGH}`} preserveAspectRatio="none" className="survival" aria-hidden="true">
				<line x1="0" x2={SPAN} y1={HIGH / 2} y2={HIGH / 2} />
				{interval.low !== null && (
					<rect x={Math.min(SPAN, interval.low)} width={Math.max(1, Math.min(SPAN, interval.high ?? SPAN) - interval.low)} y={HIGH / 2 - 9} height="18" />
				)}
				{all && <polyline className="survival-all" points={points(all, SPAN)} />}
				<polyline points={points(curve, unfinished ? SPAN : last)} />
				<path
					className="survival-lasting"
					d={lasting.map((length) => `M${Math.min(SPAN, length)},${HIGH * (1 - shareAt(curve, length)) - TICK}v${2 * TICK}`).join("")}
				/>
			</svg>
			<span className="tiny third">
				{finished}
				{unfinished > 0 && ` and ${unfinished} under way`}
			</span>
		</span>
	);
}
