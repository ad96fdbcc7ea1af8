import type { BridgeStep, Changing, Entering, Leaving } from "../step";
import { grew } from "./grew";
import { handedIn } from "./handedIn";
import { handedOut } from "./handedOut";
import { lost } from "./lost";
import { movedEarlier } from "./movedEarlier";
import { newDeal } from "./new";
import { pulledIn } from "./pulledIn";
import { pushedOut } from "./pushedOut";
import { removed } from "./removed";
import { reopened } from "./reopened";
import { rolledIn } from "./rolledIn";
import { shrank } from "./shrank";
import { won } from "./won";

/** The steps between opening and closing, in their order. A new one is one file and one line here. */
export const STEPS = [
	newDeal,
	reopened,
	handedIn,
	rolledIn,
	pulledIn,
	grew,
	shrank,
	pushedOut,
	movedEarlier,
	handedOut,
	removed,
	won,
	lost,
] as const satisfies readonly BridgeStep[];

type Step = (typeof STEPS)[number];
export type StepKind = Step["kind"];
export type Entry = Extract<Step, { way: "in" }>["kind"];
export type Exit = Extract<Step, { way: "out" }>["kind"];

export const STEP_KINDS = STEPS.map((step) => step.kind) as [StepKind, ...StepKind[]];
export const WAYS_IN: readonly Entering<Entry>[] = STEPS.filter((step) => step.way === "in");
export const WAYS_OUT: readonly Leaving<Exit>[] = STEPS.filter((step) => step.way === "out");
export const CHANGES: readonly Changing<StepKind>[] = STEPS.filter((step) => step.way === "up" || step.way === "down");

const BY_KIND = new Map<string, BridgeStep<StepKind>>(STEPS.map((step) => [step.kind, step]));
/** The step of a kind. */
export const stepOf = (kind: StepKind): BridgeStep<StepKind> => BY_KIND.get(kind) as BridgeStep<StepKind>;
/** Whether a step is a way into the period. */
export const isEntry = (kind: StepKind): kind is Entry => stepOf(kind).way === "in";
/** Whether a step is a way out of it. */
export const isExit = (kind: StepKind): kind is Exit => stepOf(kind).way === "out";
