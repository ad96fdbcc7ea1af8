"use client";
import { recordWords, useTrackRecords } from "./useTrackRecords";

/** What became of past deals with a flag, where enough had it: beside the flag on a sheet, and beside its rule. */
export function FlagRecordLine({ code, className = "" }: { code: string; className?: string }) {
	const words = recordWords(useTrackRecords().get(code));
	return words ? <span className={`d-block flag-record ${className}`}>In the last four quarters, {words}.</span> : null;
}
