import { shareWords } from "@/core/statistics/shareWords";
import type { Share, ShareOfDeals } from "@/core/statistics/wilson";
import { plural } from "@/core/words/grammar";

export const percent = (value: number | null): string => (value === null ? "–" : `${Math.round(100 * value)}%`);

const WIDE = 100;
const HIGH = 12;

/** What a share counts, where it doesn't say so itself, and below it of how many deals where some count more than once. */
function Counted({ share }: { share: Share & Partial<ShareOfDeals> }) {
	const { k, n, deals } = share;
	const whole = `${k} of ${n}`;
	const own = shareWords(share) === whole ? "" : whole;
	if (deals === undefined || deals >= n) return <span className="share-counts tiny second">{own}</span>;
	return (
		<span className="share-counts tiny second">
			{own && `${own}, `}
			<span className="d-block">of {plural(deals, "deal")}</span>
		</span>
	);
}

/** A share with its interval on a scale from nothing to all, and hollow beside it what it is held against; what rests on too few is said so. */
export function ShareBar({ share, beside }: { share: Share & Partial<ShareOfDeals>; beside?: Share | undefined }) {
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
			<b className="num text-nowrap">{shareWords(share)}</b> <Counted share={share} />
		</span>
	);
}
