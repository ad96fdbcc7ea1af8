import { buyersOn } from "../people/buyers";
import { NO_DAY } from "../time/day";
import { fired, type Rule } from "./rule";

/** Something every deal should have is missing, and other rules can't see the deal for it. */
export const blankFields: Rule = {
	code: "blank-fields",
	name: "blanks",
	about: "Amount, close date, account name or contact is missing.",
	settings: {},
	fires({ rules, facts, amountBlank, close, seen }) {
		// Where nobody keeps contacts at all, none is missing.
		const contacts = buyersOn(facts.buyers, seen).count || rules.absent?.has("contacts");
		if (!amountBlank && close !== NO_DAY && facts.hasAccountName && contacts) return null;
		const missing = [
			amountBlank ? "amount" : "",
			close === NO_DAY ? "close date" : "",
			facts.hasAccountName ? "" : "account name",
			contacts ? "" : "contact",
		].filter(Boolean);
		return fired(1, () => ({
			evidence: { missing },
			label: `Blank: ${missing.join(", ")}`,
			reason: `there is no ${missing.join(", no ")}`,
			clears: "the blanks filled in",
			remedy: `Fill in the ${missing.join(", the ")}`,
		}));
	},
};
