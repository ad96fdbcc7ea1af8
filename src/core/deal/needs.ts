import type { Stage, StageKind } from "../history/stage";
import type { DealState } from "./state";

/** What an edit has to be given with besides the fields it changes. */
export interface Given {
	readonly reason?: string | undefined;
	readonly outcomeReason?: string | undefined;
	/** null: there was none */
	readonly competitor?: string | null | undefined;
	readonly closedOn?: string | undefined;
}

/** An edit of a deal, as far as its needs depend on it. */
interface Edit {
	/** the kind of stage before and after */
	readonly from: StageKind | undefined;
	readonly to: StageKind | undefined;
	/** the close date moves to a later day */
	readonly pushed: boolean;
}

/** One thing an edit may have to be given. */
export interface Need {
	readonly name: keyof Given;
	/** as it is asked for when it is missing */
	readonly question: string;
	/** as the form asks for it */
	readonly label: string;
	/** it can't be left blank */
	readonly must: boolean;
	/** whether an edit needs it */
	readonly when: (edit: Edit) => boolean;
}

const closesAs = (kind: StageKind) => (edit: Edit) => edit.to === kind && edit.from !== kind;

/** A win needs its day; a loss its reason and who won instead; a push its why. */
const NEEDS: readonly Need[] = [
	{ name: "closedOn", question: "On which day was it won?", label: "Won on", must: true, when: closesAs("won") },
	{ name: "outcomeReason", question: "Why was it lost?", label: "Why was it lost?", must: true, when: closesAs("lost") },
	{ name: "competitor", question: "To whom was it lost?", label: "To whom? (blank: to nobody)", must: false, when: closesAs("lost") },
	{
		name: "reason",
		question: "Why does it close later?",
		label: "Why does it close later?",
		must: true,
		when: (edit) => edit.pushed && edit.to === "open",
	},
];

/**
 * What a change to a deal's state needs, whether it is given or not. A state named without its stage is one of a deal
 * that stays in it.
 *
 * @example needsOf({ stage: "Terms", closeDate: "2026-12-01" }, { closeDate: "2026-12-18" }, stages).map((need) => need.name) // ["reason"]
 */
export function needsOf(
	before: Pick<DealState, "stage" | "closeDate">,
	change: Partial<Pick<DealState, "stage" | "closeDate">>,
	stages: readonly Pick<Stage, "name" | "kind">[],
): readonly Need[] {
	const kindOf = (name: string | null) => stages.find((stage) => stage.name === name)?.kind;
	const closeDate = change.closeDate === undefined ? before.closeDate : change.closeDate;
	const edit: Edit = {
		from: kindOf(before.stage),
		to: kindOf(change.stage === undefined ? before.stage : change.stage),
		pushed: before.closeDate !== null && closeDate !== null && closeDate > before.closeDate,
	};
	return NEEDS.filter((need) => need.when(edit));
}

/**
 * Those of some needs that aren't met: a competitor may be said to be none, all else must have words.
 *
 * @example missing([{ name: "competitor", must: false }], { competitor: null }).length // 0
 */
export function missing(needs: readonly Need[], given: Given): readonly Need[] {
	return needs.filter(({ name }) => (name === "competitor" ? given.competitor === undefined : !given[name]));
}
