"use client";
import { useQuery } from "@tanstack/react-query";
import { type Result, useRun } from "@/ui/run";

export type FlagRecord = Result<"patterns.trackRecords">["items"][number];

/** so long a track record is shown before it is asked for again: it hardly moves within a day */
const MINUTES = 10 * 60_000;

/** What became of deals with each flag, by its code; of none while that isn't known. */
export function useTrackRecords(): ReadonlyMap<string, FlagRecord> {
	const run = useRun();
	const { data } = useQuery({
		queryKey: ["track records"],
		queryFn: async () => {
			const outcome = await run("patterns.trackRecords", {});
			if (!outcome.ok) throw new Error(outcome.detail);
			return new Map(outcome.result.items.map((one) => [one.code, one]));
		},
		staleTime: MINUTES,
		retry: false,
	});
	return data ?? NONE;
}
const NONE: ReadonlyMap<string, FlagRecord> = new Map();

/** `of 61 deals with it, 49 weren’t won in time; without it 133 of 223`; null where too few deals say anything. */
export function recordWords(record: FlagRecord | undefined): string | null {
	if (!record || record.with.share === null || record.without.share === null) return null;
	const said = `of ${record.with.n} deals with it, ${record.with.k} weren’t won in time; without it ${record.without.k} of ${record.without.n}`;
	return record.apart ? said : `${said}: the difference may be chance`;
}
