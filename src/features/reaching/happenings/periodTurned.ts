import { shortMoney } from "@/core/money/words";
import { dayOfWorkingDay } from "@/core/period/pace";
import { formatDay } from "@/core/time/day";
import { quarterOf } from "@/core/time/period";
import { shortDay } from "@/core/time/words";
import { plural } from "@/core/words/grammar";
import { carriedDeals } from "@/features/deals";
import { readPeriod } from "@/features/period";
import type { Context } from "@/platform/context";
import { dealName, ownerName } from "@/platform/names";
import { resolveViewpoint } from "@/platform/viewpoint";
import { dealPath, type Found, happening } from "./happening";

/** so many carried-over deals are named in a mail, the largest first */
const NAMED = 20;

function carriedLines(context: Context, currency: string): { words: string; path: string }[] {
	const { organisation } = context;
	return [...carriedDeals(context, resolveViewpoint(context, {}))]
		.sort((a, b) => b.amountBase - a.amountBase)
		.slice(0, NAMED)
		.map(({ deal, owner, amountBase, close }) => ({
			words: `${dealName(organisation, deal)}, ${ownerName(organisation, owner)}: ${shortMoney(amountBase, currency)}, was due ${shortDay(close)}`,
			path: dealPath(organisation.deals[deal]?.id ?? ""),
		}));
}

/** A new period has begun: how the one before ended, and what it left undecided. */
export const periodTurned = happening({
	kind: "period-turned",
	label: "a period begins: how the last one ended, and what is carried over",
	usual: { onScreen: true, mail: "digest" },
	async find({ context: { organisation }, as, today, before }) {
		const { calendar, fiscal } = organisation.company.rules;
		const quarter = quarterOf(today, fiscal);
		const first = dayOfWorkingDay(calendar, quarter, 1);
		if (today < first || before >= first) return [];
		const found: Found<{ last: string; won: number; target: number | null; count: number; amount: number; currency: string }>[] = [];
		for (const { id: personId, role } of organisation.people) {
			const context = role === "manager" ? as(personId) : null;
			const view = context && (await readPeriod(context, resolveViewpoint(context, {})));
			if (!context || !view?.turn?.last) continue;
			const { label: last, won, target } = view.turn.last;
			const { count, amount } = view.carried;
			found.push({
				personId,
				key: formatDay(quarter.start),
				facts: { last, won, target, count, amount, currency: view.currency },
				path: "/period/closed",
				parts: [
					{ heading: "Close it", lines: [{ words: `${last} can be closed now; after five working days it closes by itself.`, path: "/period/closed" }] },
					{ heading: "Carried over without a decision", lines: carriedLines(context, view.currency) },
				],
			});
		}
		return found;
	},
	say: ({ last, won, target, count, amount, currency }) => {
		const money = (minor: number) => shortMoney(minor, currency);
		const ended = `${last} ended with ${money(won)}${target ? ` of ${money(target)}` : ""} won`;
		return count ? `${ended}; ${plural(count, "deal")} of ${money(amount)} carried over without a decision` : `${ended}; nothing is carried over`;
	},
});
