import type { Light } from "@/core/attention/attention";
import { RULES } from "@/core/flags/list";
import { lastPeriods } from "@/core/patterns/quarters";
import { answerRecords, flagRecords, lightRecords, type TrackRecord } from "@/core/patterns/records";
import type { Level } from "@/core/qualification/answer";
import type { ShareOfDeals } from "@/core/statistics/wilson";
import type { Looked } from "../../table/view";
import { lookedView } from "../book";
import { dayOf, finding } from "../given";
import { USUAL_LOOK } from "../looking";

export interface FlagRecord extends TrackRecord {
	readonly code: string;
	readonly name: string;
}

/** What became of everybody's deals of the last quarters: by flag, by level of attention, by answer. */
export interface Foretelling {
	readonly quarters: readonly Looked[];
	readonly flags: readonly FlagRecord[];
	readonly levels: readonly (ShareOfDeals & { readonly level: Light })[];
	readonly answers: readonly (ShareOfDeals & { readonly question: string; readonly level: Level })[];
}

/** The track record of each flag, of each level of attention and of each question's answers. */
export const foretelling = finding({
	steps: () => 1,
	compute({ organisation: { company } }, { day, quarters = USUAL_LOOK.quarters, lead = USUAL_LOOK.lead }): Foretelling {
		const known = dayOf(day);
		const list = lastPeriods(company, "quarter", known, quarters, lead);
		return {
			quarters: lookedView(list),
			flags: flagRecords(company, list, known).map((one) => ({ ...one, name: RULES.find(({ code }) => code === one.code)?.name ?? one.code })),
			levels: lightRecords(company, list),
			answers: answerRecords(company, list),
		};
	},
});
