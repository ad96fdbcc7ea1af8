import { NONE } from "@/core/history/columns";
import { type Push, pushRate } from "@/core/patterns/pushes";
import { apart, shareOf } from "@/core/statistics/wilson";
import { shortDay } from "@/core/time/words";
import type { Context } from "@/platform/context";
import { chosenName } from "@/platform/names";
import type { PatternTable } from "../../table/view";
import type { Book, Case } from "../book";
import { byOwner } from "./cells";

const lateShare = (pushes: readonly Push[]) => shareOf(pushes.filter(({ monthEnd }) => monthEnd).length, pushes.length);

/** Who makes most of the pushes of months' ends, where that can be told apart from the others. */
export function pushWords({ organisation }: Context, pushes: readonly Push[]): string {
	const late = pushes.filter(({ monthEnd }) => monthEnd).length;
	const found = [...byOwner(pushes)]
		.filter(([owner, own]) => {
			const rest = pushes.filter((one) => one.owner !== owner);
			return owner !== NONE && apart(lateShare(own), lateShare(rest)) && (lateShare(own).share ?? 0) > (lateShare(rest).share ?? 1);
		})
		.map(([owner, own]) => ({ owner, k: own.filter(({ monthEnd }) => monthEnd).length }))
		.sort((a, b) => b.k - a.k);
	const [most] = found;
	return most ? `${chosenName(organisation, most.owner)} made ${most.k} of the ${late} pushes in months’ last three working days.` : "";
}

/** Who pushes how often, and how much of it at a month’s end. */
export function pushTable(context: Context, book: Book, pushes: readonly Push[], openDays: ReadonlyMap<number, number>): PatternTable {
	const { organisation } = context;
	return {
		key: "pushes",
		title: "Pushes",
		lead: "Close dates moved to a later day within two years, for every 100 weeks that a deal was open; and how many were made in the last three working days of a month, beside the same share of the others.",
		of: "Rep",
		half: true,
		columns: [
			{ label: "For 100 open deal-weeks", kind: "number" },
			{ label: "In the last three days", kind: "share" },
		],
		rows: [...byOwner(pushes)]
			.map(([owner, own]) => ({ owner, own, share: lateShare(own) }))
			.sort((a, b) => (b.share.share ?? -1) - (a.share.share ?? -1) || b.own.length - a.own.length)
			.map(({ owner, own, share }) => {
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
							beside: lateShare(pushes.filter((one) => one.owner !== owner)),
							opens: book.open(`push:${owner}`, `${name}: pushes`, "in a month’s last three working days", cases),
						},
					],
				};
			}),
		empty: "No close date was moved to a later day.",
	};
}
