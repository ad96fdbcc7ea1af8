import { shortMoney } from "@/core/money/words";
import { dealsThat } from "./dealChanges";
import { happening, NEVER } from "./happening";

/** A deal's amount gets smaller. */
export const amountCut = happening({
	kind: "amount-cut",
	label: "a deal’s amount is cut",
	usual: NEVER,
	find(scan) {
		const { base: currency } = scan.context.organisation.company.rules.rates;
		return dealsThat(scan, (was, is) => (is.status === "open" && is.amountBase < was.amountBase ? { was: was.amountBase, is: is.amountBase, currency } : null));
	},
	say: ({ deal, was, is, currency }) => {
		const money = (amount: number) => shortMoney(amount, currency);
		return `${deal}: cut from ${money(was)} to ${money(is)}`;
	},
});
