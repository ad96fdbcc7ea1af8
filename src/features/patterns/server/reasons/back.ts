import { byId } from "@/core/deal/order";
import { comeBackOn } from "@/core/patterns/comeBack";
import { rowsApart } from "@/core/statistics/toldApart";
import { shareOf } from "@/core/statistics/wilson";
import { isOpenOn, taskOn } from "@/core/tasks/task";
import { type Day, formatDay, NO_DAY } from "@/core/time/day";
import { longDay } from "@/core/time/words";
import type { Context } from "@/platform/context";
import { accountName, dealName } from "@/platform/names";
import { type PatternTable, text } from "../../table/view";
import { grouped } from "../groups";
import { bySize, NOBODY, type Told } from "./cells";

const SHOWN = 15;

/** Deals lost for a reason that ends one day, each with the day to come back to it. */
export function backTable(context: Context, day: Day, lost: readonly Told[]): PatternTable {
	const { organisation } = context;
	const { reasonReturns, company } = organisation;
	const { fiscal, calendar } = company.rules;
	const order = byId(company);
	const ends = lost
		.filter(({ reason }) => reasonReturns[reason] !== undefined)
		.sort((a, b) => b.seen.amountBase - a.seen.amountBase || order(a.seen.deal, b.seen.deal));
	return {
		key: "back",
		title: "Lost for a reason that ends",
		lead: `${Object.keys(reasonReturns).length ? "Which reasons end, and when, is set in Setup." : "Set in Setup which reasons end: with the fiscal year, or some months after the loss."}${ends.length > SHOWN ? ` The largest ${SHOWN} of ${ends.length}.` : ""}`,
		of: "Deal",
		columns: [
			{ label: "Reason", kind: "text" },
			{ label: "Lost", kind: "day" },
			{ label: "Amount", kind: "money" },
			{ label: "Follow up", kind: "comeBack" },
		],
		rows: ends.slice(0, SHOWN).map(({ seen, reason, day: closed }) => {
			const open = (company.deals[seen.deal]?.tasks ?? []).map((task) => taskOn(task, day)).filter((task) => isOpenOn(task, day) && task.due !== NO_DAY);
			const back = open.reduce((first, { due }) => Math.min(first, due), Number.POSITIVE_INFINITY);
			const on = comeBackOn(reasonReturns[reason] ?? "year", closed, day + 1, fiscal, calendar);
			const id = organisation.deals[seen.deal]?.id ?? "";
			return {
				key: id,
				dealId: id,
				name: dealName(organisation, seen.deal),
				tiny: accountName(organisation, seen.deal),
				cells: [
					text(reason),
					{ kind: "day", iso: formatDay(closed) },
					{ kind: "money", minor: seen.amountBase },
					{
						kind: "comeBack",
						dealId: id,
						day: formatDay(on),
						back: Number.isFinite(back) ? formatDay(back) : null,
						title: `Follow up with ${accountName(organisation, seen.deal)}: lost on ${longDay(closed)}, ${reason.toLowerCase()}`.slice(0, 300),
					},
				],
			};
		}),
		empty: "No deals were lost for such a reason in the last year.",
	};
}

/** A competitor to whom one team loses clearly more of its losses than to others; the largest. */
export function clusterOf(lost: readonly Told[]) {
	const pairs = bySize(
		grouped(
			lost.filter(({ competitor }) => competitor !== NOBODY),
			({ competitor }) => [competitor],
		),
	).flatMap(([competitor, own]) => {
		const rest = lost.filter((one) => one.competitor !== competitor);
		return [...grouped(own, ({ team }) => [team])].map(([team, there]) => ({
			competitor,
			team,
			here: shareOf(there.length, own.length),
			others: shareOf(rest.filter((one) => one.team === team).length, rest.length),
		}));
	});
	const verdicts = rowsApart(pairs.map(({ here, others }) => [here, others]));
	return pairs
		.filter(({ here, others }, i) => verdicts[i] && (here.share ?? 0) > (others.share ?? 1))
		.map(({ competitor, team, here, others }) => ({ competitor, team, k: here.k, of: here.n, others: others.share }))
		.sort((a, b) => b.k - a.k)[0];
}
