import { formatDay, NO_DAY } from "../time/day";
import { shortDay, workingDays } from "../time/words";
import { fired, type Rule } from "./rule";

/** The offer on the table ends soon, or has ended, without an answer. */
export const quoteLapsing: Rule<"days"> = {
	code: "quote-lapsing",
	name: "quote lapsing",
	about: "The newest quote is unanswered and lapses soon, or has lapsed.",
	settings: {
		days: { label: "fires from this long before it lapses", unit: "working days", standard: 5, min: 0, max: 400 },
	},
	fires({ rules, facts, seen }, settings) {
		const sent = facts.quotes.filter((quote) => quote.sent !== NO_DAY && quote.sent <= seen);
		const [first, ...rest] = sent;
		if (!first) return null;
		const newest = rest.reduce((a, b) => (b.sent > a.sent || (b.sent === a.sent && b.id > a.id) ? b : a), first);
		if (newest.validUntil === NO_DAY || (newest.answered !== NO_DAY && newest.answered <= seen)) return null;
		const days = rules.calendar.between(seen, newest.validUntil);
		if (days > (settings.days ?? 5)) return null;
		const past = newest.validUntil < seen;
		const name = newest.number ? `quote ${newest.number}` : "the quote";
		const when = () => (days < 0 ? `${workingDays(-days)} ago` : `in ${workingDays(days)}`);
		return fired(2, () => ({
			evidence: { quote: newest.id, validUntil: formatDay(newest.validUntil), sent: formatDay(newest.sent), days },
			label: past ? "Quote lapsed" : newest.validUntil === seen ? "Quote lapses today" : `Quote lapses in ${days} d`,
			reason: `${name} of ${shortDay(newest.sent)} has no answer and ${past ? `lapsed on ${shortDay(newest.validUntil)}${days < 0 ? `, ${when()}` : ""}` : `lapses on ${shortDay(newest.validUntil)}, ${when()}`}`,
			clears: "an answer to the quote, or a new one",
			remedy: "Renew the quote or get the answer",
		}));
	},
};
