import { money, shortMoney } from "@/ui/format";
import type { TotalsView } from "../server/totals";
import { totalsHeading } from "../table/markdown";

/** What the period comes to (of the deals one sees, where the round is over others too): target, won, by the reps' word and by the calls, side by side; and who differs most. */
export function TotalsStrip({ totals, currency, partial }: { totals: TotalsView; currency: string; partial: boolean }) {
	const { target, won, byWord, byCalls, shaky, differs } = totals;
	const part = (words: string, amount: number | null, more = "") => (
		<div className={`total ${more}`}>
			<span className="tiny second">{words}</span>
			<b title={amount === null ? undefined : money(amount, currency)}>{amount === null ? "none" : shortMoney(amount, currency)}</b>
		</div>
	);
	const short = (amount: number) => (target ? `${Math.round((100 * amount) / target)}% of target` : "");
	return (
		<section className="totals-strip" aria-live="polite" aria-label={totalsHeading({ partial })}>
			{partial && <p className="tiny second mb-0 total-partial">{totalsHeading({ partial })}</p>}
			{part("Target", target)}
			{part("Won", won)}
			<div className="total">
				<span className="tiny second">By the reps</span>
				<b title={money(byWord, currency)}>{shortMoney(byWord, currency)}</b>
				<span className="tiny second">{short(byWord)}</span>
			</div>
			<div className="total total-calls">
				<span className="tiny second">By the calls</span>
				<b title={money(byCalls, currency)}>{shortMoney(byCalls, currency)}</b>
				<span className="tiny second">{short(byCalls)}</span>
			</div>
			{shaky > 0 && part("Called shaky", shaky)}
			{differs && (
				<p className="small-text second mb-0 total-differs">
					{differs.name} differs most from the calls: {shortMoney(differs.byWord, currency)} against {shortMoney(differs.byCalls, currency)}.
				</p>
			)}
		</section>
	);
}
