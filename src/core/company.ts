import type { Activity } from "./contact/contact";
import type { FlagSettings } from "./flags/settings";
import type { History } from "./history/columns";
import type { Stage } from "./history/stage";
import type { Rates } from "./money/rates";
import type { Answer, Question } from "./qualification/score";
import type { TaskFacts } from "./tasks/task";
import type { Calendar } from "./time/calendar";
import type { Day } from "./time/day";
import type { Zone } from "./time/zone";

/** The rules an organisation works by. */
export interface Rules {
	readonly zone: Zone;
	readonly calendar: Calendar;
	/** first month of the fiscal year, 1–12 */
	readonly fiscalStart: number;
	readonly rates: Rates;
	/** in order of position; versions name them by index */
	readonly stages: readonly Stage[];
	/** currency codes; versions name them by index */
	readonly currencies: readonly string[];
	readonly questions: readonly Question[];
	readonly flags: FlagSettings;
}

/** What isn't compared over time about a deal. */
export interface DealFacts {
	readonly id: string;
	readonly createdDay: Day;
	readonly hasAccountName: boolean;
	readonly hasContact: boolean;
	readonly activities: readonly Activity[];
	readonly answers: readonly Answer[];
	readonly tasks: readonly TaskFacts[];
}

/** Everything the core computes from: plain data, deals by index. */
export interface Company {
	readonly rules: Rules;
	readonly deals: readonly DealFacts[];
	readonly history: History;
}
