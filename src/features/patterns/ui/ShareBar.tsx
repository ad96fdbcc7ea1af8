import type { Share } from "@/core/statistics/wilson";

export const percent = (value: number | null): string => (value === null ? "–" : `${Math.round(100 * value)}%`);

const WIDE = 100;
const HIGH = 12;

/** A share with its interval on a scale from nothing to all, and hollow beside it what it is held against; what rests on too few is said so. */
export function ShareBar({ share, beside }: { share: Share; beside?: Share | undefined }) {
	if (share.share === null || share.low === null || share.high === null) return <span className="third">{share.n ? `${share.n}: too few` : "none"}</span>;
	const held = beside && beside.share !== null ? beside : null;
	return (
		<span className="share" title={`${share.k} of ${share.n}; 95% interval ${percent(share.low)} to ${percent(share.high)}`}>
			<svg viewBox={`-6 0 ${WIDE + 12} ${HIGH}`} className="share-bar" aria-hidden="true">
				<line x1="0" x2={WIDE} y1={HIGH / 2} y2={HIGH / 2} className="share-ground" />
				<line x1={WIDE * share.low} x2={WIDE * share.high} y1={HIGH / 2} y2={HIGH / 2} className="share-interval" />
				{held && <circle cx={WIDE * (held.share ?? 0)} cy={HIGH / 2} r="4" className="share-beside" />}
				<circle cx={WIDE * share.share} cy={HIGH / 2} r="4" className="share-mark" />
			</svg>
			<b className="num">{percent(share.share)}</b>{" "}
			<span className="tiny second text-nowrap">
				{share.k} of {share.n}
			</span>
		</span>
	);
}
