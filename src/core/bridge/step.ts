import type { StageKind } from "../history/stage";
import type { Measure } from "./parts";

/** How a deal stands at one of two moments, as far as a period and a scope see it. */
export interface Standing {
	/** it has a version, and was not taken off the books */
	exists: boolean;
	/** of its stage; undefined where it doesn't exist */
	kind: StageKind | undefined;
	/** its owner belongs to the scope */
	ours: boolean;
	/** where its close date lies by the period; one that is blank lies nowhere */
	close: "none" | "before" | "within" | "after";
}

export interface StepWords {
	/** as charts and lists call it: `Pushed out` */
	readonly name: string;
	/** after a count of deals: `4 pushed out` */
	readonly told: string;
	/** the same where a week is told line by line, if it is said otherwise there */
	readonly week?: string;
	/** one of it, and several */
	readonly noun: readonly [one: string, many: string];
}

interface Common<K extends string> {
	readonly kind: K;
	readonly words: StepWords;
	/** what a deal adds to it; its amount at the later moment unless another is named */
	readonly measure?: Measure;
}

/** A way in: `holds` of a deal that is in at the later moment and wasn't at the earlier, by how it stood then. */
export interface Entering<K extends string = string> extends Common<K> {
	readonly way: "in";
	readonly holds: (before: Standing) => boolean;
}
/** A way out: `holds` of a deal that was in at the earlier moment and isn't at the later, by how it stands now. */
export interface Leaving<K extends string = string> extends Common<K> {
	readonly way: "out";
	readonly holds: (after: Standing) => boolean;
}
/** A change of what was in before, by its amounts at both moments; up or down. */
export interface Changing<K extends string = string> extends Common<K> {
	readonly way: "up" | "down";
	readonly holds: (before: number, after: number) => boolean;
}
export type BridgeStep<K extends string = string> = Entering<K> | Leaving<K> | Changing<K>;

/**
 * Makes a step of the bridge. Of the ways in exactly one holds of any deal that comes in, and of the ways out exactly
 * one of any that leaves.
 *
 * @example step({ kind: "won", way: "out", words: { … }, holds: (after) => after.kind === "won" })
 */
export const step = <const S extends BridgeStep>(given: S): S => given;

/** Whether a step takes away from the open amount. */
export const takesAway = ({ way }: Pick<BridgeStep, "way">): boolean => way === "out" || way === "down";
