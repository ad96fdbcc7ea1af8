import type { AttentionSettings } from "@/core/attention/settings";
import { lastPeriods } from "@/core/patterns/quarters";
import { type SeverityRecord, severityRecords, sortingOf } from "@/core/patterns/weights";
import { periodWords } from "@/core/time/words";
import type { Looked } from "../../table/view";
import { lookedView } from "../book";
import { dayOf, finding } from "../given";
import { USUAL_LOOK } from "../looking";

/** How well attention would have sorted the deals of past quarters, by some weights: all together, and each. */
export interface Sorting {
	readonly chance: number | null;
	readonly missed: number;
	readonly won: number;
	readonly quarters: readonly { readonly label: string; readonly chance: number | null }[];
}

/** What the past says of the weights of flags: by severity, and how well some weights would have sorted its deals. */
export interface WeightsFound {
	readonly quarters: readonly Looked[];
	readonly severities: readonly SeverityRecord[];
	readonly sorting: Sorting;
}

/** By the weights that are given, or those that hold now. */
export const weights = finding({
	steps: () => 1,
	compute({ organisation: { company } }, { day, attention }): WeightsFound {
		const list = lastPeriods(company, "quarter", dayOf(day), USUAL_LOOK.quarters, USUAL_LOOK.lead);
		const set: AttentionSettings = attention ?? company.rules.attention;
		return {
			quarters: lookedView(list),
			severities: severityRecords(company, list),
			sorting: {
				...sortingOf(company, list, set),
				quarters: list.map((one) => ({ label: periodWords(one.period), chance: sortingOf(company, [one], set).chance })),
			},
		};
	},
});
