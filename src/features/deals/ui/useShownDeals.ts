"use client";
import { useDeferredValue, useMemo } from "react";
import type { FrameView } from "@/ui/frame/view";
import type { DealsView } from "../server/readDeals";
import { partedBy, withCarried } from "../table/carried";
import { fitsFlags, fitsWords } from "../table/fits";
import { groupDeals, totals } from "../table/groups";
import { sortDeals } from "../table/sorts";
import { useFoundTexts, type useTable } from "./useTable";

type Table = ReturnType<typeof useTable>;

/** The deals that fit what is asked of a table, in its order and groups, with their totals. */
export function useShownDeals(view: DealsView, { flags, how, since, filters, sorts, group, text }: Table, frame: FrameView["sentence"]) {
	const { due } = frame;
	const seen = frame.seen.day;
	const words = useDeferredValue(text.trim().toLowerCase());
	const { found, looking } = useFoundTexts(filters);
	const searched = useMemo(() => {
		return view.rows.filter(fitsWords(words, filters, { seen, currency: view.currency, found }));
	}, [view, words, filters, found, seen]);
	const rows = useMemo(() => sortDeals(searched.filter(fitsFlags({ flags, how, since })), sorts), [searched, flags, how, since, sorts]);
	const parts = useMemo(() => partedBy(rows, due), [rows, due]);
	const groups = useMemo(() => withCarried(parts.carried, parts.due, group ? groupDeals(parts.due, group) : null, due.label), [parts, group, due.label]);
	const order = useMemo(() => (groups ? groups.flatMap((one) => one.rows) : rows), [groups, rows]);
	const sum = useMemo(() => totals(parts.due), [parts]);
	return {
		/** before flags are asked for: what the toggles count */
		searched,
		rows,
		parts,
		groups,
		/** as they stand on screen */
		order,
		/** of those due */
		sum,
		looking,
	};
}
