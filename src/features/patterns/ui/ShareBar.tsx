import type { Share } from "@/core/statistics/wilson";

export const percent = (value: number | null): string => (value === null ? "–" : `${Math.round(100 * value)}%`);

/** A share with its interval on a scale from nothing to all; what rests on too few is said so. */
export function ShareBar({ share }: { share: Share }) {
	if (share.share === null || share.low === null || share.high === null) return <span className="third">{share.n ? `${share.n} deals: too few` : "none"}</span>;
	return (
		<span className="share" title={`${share.k} of ${share.n}; 95% interval ${percent(share.low)} to ${percent(share.high)}`}>
			<svg viewBox="0 0 100 10" preserveAspectRatio="none" className="share-bar" aria-hidden="true">
				<rect x="0" y="4.5" width="100" height="1" className="share-ground" />
				<rect x={100 * share.low} y="3" width={Math.max(0.6, 100 * (share.high - share.low))} height="4" className="share-interval" />
				<rect x={100 * share.share - 0.8} y="1" width="1.6" height="8" className="share-mark" />
			</svg>
			<b>{percent(share.share)}</b>{" "}
			<span className="tiny second text-nowrap">
				{share.k} of {share.n}
			</span>
		</span>
	);
}
