import { byCount, listed } from "@/core/words/grammar";
import { nearDate, shortMoney } from "@/ui/format";
import { LITTLE, type PictureDeal, SOON } from "../table/dealPicture";

const NAMED = 3;

/** What the picture says at a glance: which large deals close soon with little chance. */
export function pressingWords(deals: readonly PictureDeal[], today: string, currency: string): string {
	const bounds = `below ${LITTLE * 100}%`;
	if (!deals.length) return `None of the largest deals closes within ${SOON / 7} weeks, or was to, with a chance ${bounds}.`;
	const named = deals
		.slice(0, NAMED)
		.map(
			({ name, amount, close, chance }) =>
				`${name} (${shortMoney(amount, currency)}, ${close ? nearDate(close, today) : "no date"}, ${Math.round(chance * 100)}%)`,
		);
	const rest = deals.length - named.length;
	const which = rest > 0 ? `${named.join(", ")} and ${rest} more` : listed(named);
	return `Of the largest deals, ${deals.length} ${byCount(deals.length, "closes", "close")} within ${SOON / 7} weeks, or ${byCount(deals.length, "was", "were")} to, with a chance ${bounds}: ${which}.`;
}
