import { plural } from "@/core/words/grammar";
import { dayNumber, longDate, shortDate } from "@/ui/format";
import type { SheetView } from "../server/sheetView";

const WIDTH = 360;

/** The close-date trail drawn to scale: each date that was ever set, the quarter ends between, and the seen day. */
export function TrailDrawing({ view }: { view: SheetView }) {
	// Long: one drawing, its parts from back to front.
	const { points, quarterEnds } = view.trail;
	if (!points.length) return <p className="second small-text mb-0">No close date has been set.</p>;
	const days = [...points.map((p) => dayNumber(p.close)), dayNumber(view.seen)];
	const from = Math.min(...days) - 6;
	const to = Math.max(...days) + 6;
	const x = (iso: string) => 30 + ((dayNumber(iso) - from) / (to - from)) * (WIDTH - 60);
	const ends = quarterEnds.filter((end) => dayNumber(end) >= from && dayNumber(end) <= to);
	const words = points.map((p) => `${longDate(p.close)}, set on ${longDate(p.set)}`).join("; then ");
	const labels = spread(points.map((p) => x(p.close)));
	return (
		<>
			<svg className="trail trail-drawing" viewBox={`0 0 ${WIDTH} 96`} role="img" aria-label={`Close dates: ${words}`}>
				{ends.map((end) => (
					<g key={end}>
						<line className="trail-end" x1={x(end)} x2={x(end)} y1={34} y2={74} />
						<text x={x(end)} y={88} textAnchor="middle">
							{shortDate(end)}, quarter ends
						</text>
					</g>
				))}
				<line className="trail-end" x1={x(view.seen)} x2={x(view.seen)} y1={44} y2={64} />
				<line className="trail-line" x1={Math.min(...points.map((p) => x(p.close)))} x2={Math.max(...points.map((p) => x(p.close)))} y1={54} y2={54} />
				{points.map((point, i) => {
					const last = i === points.length - 1;
					return (
						<g key={`${point.set}${point.close}`}>
							<circle className={last ? "trail-now" : "trail-past"} cx={x(point.close)} cy={54} r={last ? 6 : 4.5}>
								<title>{`${longDate(point.close)}, set on ${longDate(point.set)}`}</title>
							</circle>
							<text className={last ? "now-label" : ""} x={x(point.close)} y={labels[i] ? 22 : 38} textAnchor="middle">
								{shortDate(point.close)}
							</text>
						</g>
					);
				})}
			</svg>
			<ul className="rows small-text">
				{points.map((point, i) => {
					const before = points[i - 1];
					const moved = before ? dayNumber(point.close) - dayNumber(before.close) : 0;
					return (
						<li key={`${point.set}${point.close}`}>
							<span>
								{longDate(point.close)}
								{point.reason && <span className="d-block tiny second">“{point.reason}”</span>}
							</span>
							<span className="second">
								{before ? (
									<b className={moved > 0 ? "worse" : "gained"}>
										{moved > 0 ? `pushed ${plural(moved, "calendar day")}` : `pulled ${plural(-moved, "calendar day")}`}
									</b>
								) : (
									"first date"
								)}
								, set {shortDate(point.set)}
								{point.by && ` by ${point.by}`}
							</span>
						</li>
					);
				})}
			</ul>
		</>
	);
}

/** Which labels go to the upper line, so that neighbours don't cover each other. */
function spread(places: readonly number[]): boolean[] {
	const up: boolean[] = [];
	places.forEach((place, i) => {
		const near = places.some((other, j) => j < i && !up[j] && Math.abs(other - place) < 44);
		up.push(near);
	});
	return up;
}
