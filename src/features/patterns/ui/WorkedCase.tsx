import { STEP_WORDS } from "@/core/outlook/kindWords";
import { plural } from "@/core/words/grammar";
import { money, shortMoney } from "@/ui/format";
import type { OutlookView } from "../server/readOutlook";
import { periodsWords } from "./periodsWords";

const digits = (value: number) => value.toFixed(3);

/** Folded away: how the figures of this very period were made, step by step, with the deal that decides most as the example. */
export function WorkedCase({ view }: { view: OutlookView }) {
	const { currency, periods, amountRatio, freshCount, spread, stretch } = view;
	const deal = view.deals.find(({ due }) => due) ?? view.deals[0];
	return (
		<details className="small-text worked-case">
			<summary>How these figures are made</summary>
			<ol>
				<li>
					The past is the last {periodsWords(periods)}, each looked at as many working days before its end as are left now. Every deal that was open then is
					compared, with what was known then, and counts as won if it was won in that period.
				</li>
				{deal && (
					<li>
						<b>{deal.name}</b>, {money(deal.amount, currency)}: {chanceSteps(deal)}. Times its amount and the amount ratio of {digits(amountRatio)} it adds{" "}
						{money(Math.round(deal.chance * deal.amount * amountRatio), currency)} to the expected total.
					</li>
				)}
				<li>
					Won deals came to {digits(amountRatio)} of what they were worth on such a day. {freshCount.toFixed(2)} wins that aren’t there yet are expected, each
					as large as one of those in past periods.
				</li>
				<li>
					10 000 totals are drawn: each deal won or not by its chance, all chances shifted together by how the period goes (spread {digits(spread)} in log odds,
					from how past periods scattered). Each total’s distance from the center is then multiplied by {digits(stretch)}, but no total is below what is won.
				</li>
				<li>
					The band goes from the 10th to the 90th percentile of these totals, {shortMoney(view.low, currency)} to {shortMoney(view.high, currency)}; the median
					is {shortMoney(view.middle, currency)}.
				</li>
			</ol>
		</details>
	);
}

/** `44.4% of any deal due (7 of 16 won), 53.1% in its stage (6 of 10) …`: the chance after each step. */
function chanceSteps({ due, steps }: OutlookView["deals"][number]): string {
	const words = STEP_WORDS[due ? "due" : "elsewhere"];
	const [all = { n: 0, won: 0 }] = steps;
	let chance = due ? (all.won + 1) / (all.n + 2) : all.n ? (all.won + 0.5) / (all.n + 1) : 0;
	const told = steps.map(({ n, won }, i) => {
		if (i > 0) chance = (won + 8 * chance) / (n + 8);
		return `${(100 * chance).toFixed(1)}% ${i === 0 ? "by" : ""} ${words[i]} (${won} of ${plural(n, "deal")} won)`.replace("  ", " ");
	});
	return told.join(", ");
}
