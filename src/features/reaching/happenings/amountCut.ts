import { currencySign, shortAmount } from "@/core/money/words";
import { dealsThat } from "./dealChanges";
import { happening, NEVER } from "./happening";

/** A deal's amount gets smaller. */
export const amountCut = happening({
	kind: "amount-cut",
	words: "a deal’s amount is cut",
	usual: NEVER,
	find(scan) {
		const { base } = scan.context.organisation.company.rules.rates;
		const money = (amount: number) => `${currencySign(base)}${shortAmount(amount, base)}`;
		return dealsThat(scan, (was, is) =>
			is.status === "open" && is.amountBase < was.amountBase ? `cut from ${money(was.amountBase)} to ${money(is.amountBase)}` : null,
		);
	},
});
