import { dayNumber, shortDate } from "../format";

/** A span of days that all trails of a list share, so that they can be compared. */
export interface TrailSpan {
	readonly from: number;
	readonly to: number;
	/** the period's last day, drawn as a dashed line */
	readonly end: number | null;
}

/** The path of a close date: hollow dots for past dates, a full one for the present, a dashed line for the period's end. */
export function Trail({ points, span, width = 116 }: { points: readonly (readonly [close: string, set: string])[]; span: TrailSpan; width?: number }) {
	if (!points.length) return <span className="third small-text">no date</span>;
	const pad = 6;
	const x = (day: number) => {
		const share = (day - span.from) / Math.max(1, span.to - span.from);
		return pad + Math.min(1, Math.max(0, share)) * (width - 2 * pad);
	};
	const days = points.map(([close]) => dayNumber(close));
	const words = `close date ${points.map(([close]) => shortDate(close)).join(", then ")}`;
	const last = days.length - 1;
	const [low, high] = [Math.min(...days), Math.max(...days)];
	return (
		<svg className="trail" width={width} height={20} role="img" aria-label={words}>
			<title>{words}</title>
			{span.end !== null && <line className="trail-end" x1={x(span.end)} x2={x(span.end)} y1={2} y2={18} />}
			{last > 0 && <line className="trail-line" x1={x(low)} x2={x(high)} y1={10} y2={10} />}
			{days.slice(0, -1).map((day, i) => (
				<circle key={points[i]?.join()} className="trail-past" cx={x(day)} cy={10} r={3} />
			))}
			<circle className="trail-now" cx={x(days[last] as number)} cy={10} r={4.5} />
		</svg>
	);
}
