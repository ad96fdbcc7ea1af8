"use client";
import { useDeferredValue, useMemo } from "react";
import { meets } from "../filters";
import type { DealRow, DealsView } from "../server/readDeals";
import { groupDeals, totals } from "../table/groups";
import { sortDeals } from "../table/sorts";
import { LIT } from "./FlagToggles";
import { useFoundTexts, type useTable } from "./useTable";

type Table = ReturnType<typeof useTable>;

const texts = new WeakMap<DealRow, string>();

/** Whether all words stand in what a row shows. Its text is made once a row. */
function matches(row: DealRow, words: readonly string[]): boolean {
	let text = texts.get(row);
	if (text === undefined) {
		text = `${row.name} ${row.account} ${row.owner} ${row.stage} ${row.nextStep ?? ""} ${row.flags.map((flag) => flag.label).join(" ")}`.toLowerCase();
		texts.set(row, text);
	}
	return words.every((word) => text.includes(word));
}

/** The deals that fit what is asked of a table, in its order and groups, with their totals. */
export function useShownDeals(view: DealsView, { flags, how, since, filters, sorts, group, text }: Table, seen: string) {
	const words = useDeferredValue(text.trim().toLowerCase());
	const { found, looking } = useFoundTexts(filters);
	const searched = useMemo(() => {
		const setting = { seen, currency: view.currency, found };
		const wanted = words ? words.split(/\s+/) : [];
		return view.rows.filter((row) => matches(row, wanted) && filters.every((filter) => meets(row, filter, setting)));
	}, [view, words, filters, found, seen]);
	const rows = useMemo(() => sortDeals(searched.filter(fitsFlags(flags, how, since)), sorts), [searched, flags, how, since, sorts]);
	const groups = useMemo(() => (group ? groupDeals(rows, group) : null), [rows, group]);
	const order = useMemo(() => (groups ? groups.flatMap((one) => one.rows) : rows), [groups, rows]);
	const sum = useMemo(() => totals(rows), [rows]);
	return {
		/** before flags are asked for: what the toggles count */
		searched,
		rows,
		groups,
		/** as they stand on screen */
		order,
		sum,
		looking,
	};
}

/** Whether a deal carries the flags that are asked for: now, newly lit, or gone out since. */
function fitsFlags(flags: Table["flags"], how: Table["how"], since: Table["since"]): (row: DealRow) => boolean {
	const asked = flags.filter((flag) => flag !== LIT);
	const carries = (row: DealRow, code: string) =>
		since === "lit" ? row.newlyLit.includes(code) : since === "out" ? row.wentOut.includes(code) : row.flags.some((flag) => flag.code === code);
	return (row) => {
		if (flags.includes(LIT) && row.level === "calm") return false;
		if (!asked.length) return since === "lit" ? row.newlyLit.length > 0 : since === "out" ? row.wentOut.length > 0 : true;
		return how === "all" ? asked.every((code) => carries(row, code)) : asked.some((code) => carries(row, code));
	};
}
