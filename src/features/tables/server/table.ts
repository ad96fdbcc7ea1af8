import type { Scope } from "@/core/bridge/scope";
import { exponentOf } from "@/core/money/currency";
import type { Day } from "@/core/time/day";
import type { Column, Kind, Value } from "@/formats/columns";
import type { Context } from "@/platform/context";

/** What a table is asked for: whose, as seen on which day. */
export interface Asked extends Pick<Context, "organisation" | "now"> {
	readonly scope: Scope;
	readonly day: Day;
}

export type Row = readonly Value[];

/** A table that other programs read: as a file over the API, and as a view in the database. */
export interface OutsideTable {
	/** as in the address, and of the view */
	readonly name: string;
	readonly about: string;
	readonly columns: readonly Column[];
	/** its rows in parts; what nothing has changed comes in the same part again */
	readonly parts: (asked: Asked) => AsyncIterable<readonly Row[]>;
}

/** A column of a table, and how it is had of what a row is made of. */
export interface ColumnOf<S> extends Column {
	readonly of: (source: S) => Value;
}
export const column = <S>(name: string, kind: Kind, about: string, of: (source: S) => Value): ColumnOf<S> => ({ name, kind, about, of });

/**
 * Makes a table of the columns that it has; the last says of which day it speaks.
 *
 * @example export const flags = outsideTable("flags", "What is lit", [column("deal_id", "text", "…", ({ deal }) => deal.id)], ({ day }) => parts);
 */
export function outsideTable<S>(
	name: string,
	about: string,
	columns: readonly ColumnOf<S>[],
	parts: (asked: Asked) => Iterable<readonly S[]> | AsyncIterable<readonly S[]>,
): OutsideTable {
	return {
		name,
		about,
		columns: [...columns.map(({ name, kind, about }) => ({ name, kind, about })), { name: "seen_on", kind: "day", about: "the day it speaks of" }],
		async *parts(asked) {
			for await (const sources of parts(asked)) yield sources.map((source) => [...columns.map(({ of }) => of(source)), asked.day]);
		},
	};
}

/** An amount in minor units of a currency in whole units. */
export const inUnits = (minor: number | null, currency: string | null): number | null =>
	minor === null || currency === null || Number.isNaN(minor) ? null : minor / 10 ** (exponentOf(currency) ?? 2);
