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

/**
 * Stages in order with their ranks: open ones counted from 1.
 *
 * @example rankStages([{ kind: "open" }, { kind: "won" }, { kind: "open" }]).map(({ rank }) => rank) // [1, 0, 2]
 */
export function rankStages(stages: readonly Omit<Stage, "rank">[]): Stage[] {
	let rank = 0;
	return stages.map((stage) => ({ ...stage, rank: stage.kind === "open" ? ++rank : 0 }));
}

/**
 * Chances for stages nobody has judged yet: open ones rise evenly in their order, by steps of a twentieth; won is certain, lost is none.
 *
 * @example evenChances([{ kind: "open" }, { kind: "won" }]).map(({ probability }) => probability) // [0.5, 1]
 */
export function evenChances<T extends { readonly kind: StageKind }>(stages: readonly T[]): (T & { readonly probability: number })[] {
	const open = stages.filter((stage) => stage.kind === "open");
	const chance = (stage: T) => (stage.kind === "open" ? Math.round((20 * (open.indexOf(stage) + 1)) / (open.length + 1)) / 20 : stage.kind === "won" ? 1 : 0);
	return stages.map((stage) => ({ ...stage, probability: chance(stage) }));
}
