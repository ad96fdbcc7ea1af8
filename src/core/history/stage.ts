import type { Decimal } from "../money/decimal";

export const STAGE_KINDS = ["open", "won", "lost"] as const;
export type StageKind = (typeof STAGE_KINDS)[number];

export interface Stage {
	readonly name: string;
	readonly kind: StageKind;
	/** chance of being won, 0 to 1 */
	readonly probability: Decimal;
	/** configured working days in the stage */
	readonly usualDays: number;
	/** position among the open stages, from 1; 0 for won and lost */
	readonly rank: number;
}

/** Stages in order with their ranks: open ones counted from 1. */
export function rankStages(stages: readonly Omit<Stage, "rank">[]): Stage[] {
	let rank = 0;
	return stages.map((stage) => ({ ...stage, rank: stage.kind === "open" ? ++rank : 0 }));
}
