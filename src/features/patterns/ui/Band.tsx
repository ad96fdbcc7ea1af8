import { shortMoney } from "@/ui/format";
import type { OutlookView } from "../server/readOutlook";
import "./patterns.css";

/** Won, the band and the target on one scale. */
export function Band({ view: { won, low, middle, high, target, currency } }: { view: OutlookView }) {
	const most = Math.max(high, target ?? 0, won) * 1.15 || 1;
	const at = (amount: number) => `${(100 * Math.max(0, amount)) / most}%`;
	return (
		<div className="band" role="img" aria-label={`Won ${shortMoney(won, currency)}; between ${shortMoney(low, currency)} and ${shortMoney(high, currency)}`}>
			<i className="band-won" style={{ width: at(won) }} />
			<i className="band-range" style={{ left: at(low), width: at(high - low) }} />
			<i className="band-middle" style={{ left: at(middle) }} />
			{target !== null && <i className="band-target" style={{ left: at(target) }} />}
			<span style={{ left: 0 }}>won {shortMoney(won, currency)}</span>
			<span className="band-low" style={{ left: at(low) }}>
				{shortMoney(low, currency)}
			</span>
			<span className="band-high" style={{ left: at(high) }}>
				{shortMoney(high, currency)}
			</span>
			{target !== null && (
				<span className="band-above" style={{ left: at(target) }}>
					target {shortMoney(target, currency)}
				</span>
			)}
		</div>
	);
}
