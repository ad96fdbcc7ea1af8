import { shortMoney } from "@/ui/format";
import type { OutlookAnswer } from "../server/readOutlook";
import { Band } from "./Band";
import { bandWords, targetChance } from "./bandWords";

/** Where the period will end, in little room; with how often such a band held. */
export function OutlookTile({ view }: { view: OutlookAnswer | null }) {
	if (!view) return <p className="second small-text">Computing; check back in a moment.</p>;
	if (!view.available) return <p className="second small-text">No outlook: {view.reason}</p>;
	const { low, middle, high, target, won, currency, record } = view;
	return (
		<>
			<Band view={view} />
			<p className="small-text second mb-0">
				Most likely about {shortMoney(middle, currency)}; between {shortMoney(low, currency)} and {shortMoney(high, currency)} in eight of ten cases
				{target !== null && (won >= target ? "; the target is reached" : `; the chance of the target is ${targetChance(view)}`)}. {bandWords(record)}
			</p>
		</>
	);
}
