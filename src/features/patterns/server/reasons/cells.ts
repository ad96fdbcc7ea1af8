import { type Closed, meanSaid } from "@/core/patterns/closed";
import { shareOf } from "@/core/statistics/wilson";
import { shortDay } from "@/core/time/words";
import type { Cell } from "../../table/view";
import type { Book, Case } from "../book";

/** A closed deal with what was said of why. */
export interface Told extends Closed {
	readonly reason: string;
	readonly competitor: string;
	readonly team: string;
}

export const NO_REASON = "no reason given";

export const NOBODY = "nobody named";

/** What some closed deals were worth, in base minor units. */
export const sum = (list: readonly Told[]) => list.reduce((all, { seen }) => all + seen.amountBase, 0);

/** Groups, the largest first. */
export const bySize = (groups: ReadonlyMap<string, Told[]>) => [...groups].sort(([a, x], [b, y]) => y.length - x.length || sum(y) - sum(x) || (a < b ? -1 : 1));

const ages = (list: readonly Told[]) => meanSaid(list.map(({ seen }) => seen.dealAge));

/** Cells that open the closed deals they are made of. */
export class Cells {
	constructor(private readonly book: Book) {}

	private open(key: string, title: string, list: readonly Told[], counted: string | null = null): string {
		return this.book.open(key, title, counted, () =>
			list.map(
				({ seen, won, day, reason, competitor }): Case => ({
					deal: seen.deal,
					day,
					owner: seen.owner,
					amount: seen.amountBase,
					came: won ? `won ${shortDay(day)}` : `lost ${shortDay(day)}: ${reason}${competitor === NOBODY ? "" : `, ${competitor}`}`,
					hit: counted ? won : null,
				}),
			),
		);
	}
	count(key: string, title: string, list: readonly Told[]): Cell {
		return list.length ? { kind: "count", value: list.length, opens: this.open(key, title, list) } : { kind: "count", value: null };
	}
	wonShare(key: string, title: string, list: readonly Told[]): Cell {
		return { kind: "share", share: shareOf(list.filter(({ won }) => won).length, list.length), opens: this.open(key, title, list, "were won") };
	}
	days(list: readonly Told[]): Cell {
		return { kind: "number", value: ages(list), digits: 1, unit: "d" };
	}
}

export type Stages = readonly { readonly name: string; readonly rank: number }[];
