import { NONE } from "@/core/history/columns";
import { type Push, pushRate } from "@/core/patterns/pushes";
import { rowsApart } from "@/core/statistics/toldApart";
import { shareOf } from "@/core/statistics/wilson";
import { shortDay } from "@/core/time/words";
import type { Context } from "@/platform/context";
import { chosenName } from "@/platform/names";
import type { PatternTable } from "../../table/view";
import type { Book, Case } from "../book";
import { comparedWords } from "../words";
import { byOwner } from "./cells";

/** pushes of two years: there are few in one */
export const PUSH_DAYS = 730;

const lateShare = (pushes: readonly Push[]) => shareOf(pushes.filter(({ monthEnd }) => monthEnd).length, pushes.length);

/** The pushes of each owner, with how many of them were made at months’ ends, beside all others’. */
const byRep = (pushes: readonly Push[]) =>
	[...byOwner(pushes)].map(([owner, own]) => ({ owner, own, share: lateShare(own), others: lateShare(pushes.filter((one) => one.owner !== owner)) }));

/** Who makes most of the pushes of months' ends, where that can be told apart from the others. */
export function pushWords({ organisation }: Context, pushes: readonly Push[]): string {
	const late = pushes.filter(({ monthEnd }) => monthEnd).length;
	const reps = byRep(pushes);
	const verdicts = rowsApart(reps.map(({ share, others }) => [share, others]));
	const found = reps
		.filter(({ owner, share, others }, i) => owner !== NONE && verdicts[i] && (share.share ?? 0) > (others.share ?? 1))
		.sort((a, b) => b.share.k - a.share.k);
	const [most] = found;
	return most ? `${chosenName(organisation, most.owner)} made ${most.share.k} of the ${late} pushes in months’ last three working days.` : "";
}

/** Who pushes how often, and how much of it at a month’s end. */
export function pushTable(context: Context, book: Book, pushes: readonly Push[], openDays: ReadonlyMap<number, number>): PatternTable {
	const { organisation } = context;
	const reps = byRep(pushes);
	return {
		key: "pushes",
		title: "Pushes",
		lead: `Close dates moved to a later day within two years, for every 100 weeks that a deal was open; and how many were made in the last three working days of a month, beside the same share of the others. ${comparedWords(
			"rep",
			reps.map(({ share, others }) => [share, others]),
		)}`,
		of: "Rep",
		half: true,
		columns: [
			{ label: "For 100 open deal-weeks", kind: "number" },
			{ label: "In the last three days", kind: "share" },
		],
		rows: reps
			.sort((a, b) => (b.share.share ?? -1) - (a.share.share ?? -1) || b.own.length - a.own.length)
			.map(({ owner, own, share, others }) => {
				const name = owner === NONE ? "No owner" : chosenName(organisation, owner);
				const cases = (): Case[] =>
					own.map((one) => ({ deal: one.deal, day: one.day, owner, amount: null, came: `pushed on ${shortDay(one.day)}`, hit: one.monthEnd }));
				return {
					key: organisation.people[owner]?.id ?? "none",
					name,
					cells: [
						{ kind: "number", value: pushRate(own.length, openDays.get(owner) ?? 0), digits: 1, unit: "" },
						{
							kind: "share",
							share,
							beside: others,
							opens: book.open(`push:${owner}`, `${name}: pushes`, "in a month’s last three working days", cases),
						},
					],
				};
			}),
		empty: "No close date was moved to a later day.",
	};
}
