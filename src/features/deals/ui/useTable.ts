"use client";
import { type UseQueryResult, useQueries } from "@tanstack/react-query";
import { useQueryStates } from "nuqs";
import { useCallback, useMemo } from "react";
import { useRun } from "@/ui/run";
import { type Filter, readFilter, writeFilter } from "../filters";
import { TABLE_PARSERS } from "../table/asked";
import { readSort, type Sort, writeSort } from "../table/sorts";

/** How the deals are looked at: all of it in the address, so that it can be sent, saved and come back to. */
export function useTable() {
	const [state, set] = useQueryStates(TABLE_PARSERS, { shallow: true, history: "push", throttleMs: 150, clearOnDefault: true });
	const filters = useMemo(() => state.f.flatMap((text) => readFilter(text) ?? []), [state.f]);
	const sorts = useMemo(() => state.sort.flatMap((text) => readSort(text) ?? []), [state.sort]);
	const setFilters = useCallback((next: readonly Filter[]) => void set({ f: next.length ? next.map(writeFilter) : null }), [set]);
	const setSorts = useCallback((next: readonly Sort[]) => void set({ sort: next.length ? next.map(writeSort) : null }), [set]);
	return { ...state, filters, sorts, set, setFilters, setSorts };
}
export type TableState = ReturnType<typeof useTable>;

/** What of the address makes a saved view: whose and closing when, and how the table looks; not the days it is seen on. */
export function viewQuery(search: string): string {
	const query = new URLSearchParams(search);
	for (const name of ["seen", "against", "deal", "view"]) query.delete(name);
	query.sort();
	return query.toString();
}

/**
 * Ids of deals by the texts that are filtered for; asked of the server, since notes and activities stay there. A text
 * whose answer failed isn't in it, so that it leaves no deal out.
 */
export function useFoundTexts(filters: readonly Filter[]): { found: ReadonlyMap<string, ReadonlySet<string>>; looking: boolean } {
	const run = useRun();
	const texts = [...new Set(filters.filter((filter) => filter.field === "text").map((filter) => filter.value))];
	const combine = useCallback(
		(answers: UseQueryResult<{ text: string; ids: ReadonlySet<string> }>[]) => ({
			found: new Map(answers.flatMap(({ data }) => (data ? [[data.text, data.ids] as const] : []))),
			looking: answers.some((answer) => answer.isPending && !answer.isError),
		}),
		[],
	);
	return useQueries({
		queries: texts.map((text) => ({
			queryKey: ["deals with text", text],
			queryFn: async () => {
				const answer = await run("search.dealsWithText", { text });
				if (!answer.ok) throw new Error(answer.detail);
				return { text, ids: new Set(answer.result) };
			},
		})),
		combine,
	});
}
