import { plural } from "@/core/words/grammar";

const LONGER_THAN_A_MONTH = 32 * 86_400_000;

/** `8 quarters`, `6 months`: how many periods, by how long they are. */
export function periodsWords(periods: readonly { readonly from: string; readonly to: string }[]): string {
	const [first] = periods;
	const long = !first || Date.parse(first.to) - Date.parse(first.from) > LONGER_THAN_A_MONTH;
	return plural(periods.length, long ? "quarter" : "month");
}
