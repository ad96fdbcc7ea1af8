import type { AttentionSettings } from "@/core/attention/settings";
import { lastPeriods } from "@/core/patterns/quarters";
import { isBetter, judgedBy, type SeverityRecord, severityRecords, weightsOf } from "@/core/patterns/weights";
import { periodWords } from "@/core/time/words";
import type { Looked } from "../../table/view";
import { lookedView } from "../book";
import { dayOf, finding } from "../given";
import { USUAL_LOOK } from "../looking";

/** How well attention would have sorted the deals of past quarters, by the weights of now and by others, each quarter by what the others taught. */
export interface Sorting {
	readonly better: boolean;
	readonly quarters: readonly { readonly label: string; readonly now: number | null; readonly tried: number | null }[];
}

/** What the past says of the weights of flags: by severity, and how well some weights would have sorted its deals. */
export interface WeightsFound {
	readonly quarters: readonly Looked[];
	readonly severities: readonly SeverityRecord[];
	/** by the weights that are given; those that hold now where none are */
	readonly sorting: Sorting;
}

export const weights = finding({
	steps: () => 1,
	compute({ organisation: { company } }, { day, attention, byLift }): WeightsFound {
		const list = lastPeriods(company, "quarter", dayOf(day), USUAL_LOOK.quarters, USUAL_LOOK.lead);
		const now = company.rules.attention;
		const set = attention ?? now;
		const judged = judgedBy(company, list, now, (others): AttentionSettings => (byLift ? { ...set, ...weightsOf(severityRecords(company, others)) } : set));
		return {
			quarters: lookedView(list),
			severities: severityRecords(company, list),
			sorting: { better: isBetter(judged), quarters: judged.map(({ period, now: before, tried }) => ({ label: periodWords(period), now: before, tried })) },
		};
	},
});
