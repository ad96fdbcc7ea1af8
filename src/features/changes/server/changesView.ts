import type { StepKind } from "@/core/bridge/steps";
import type { BrokenSeal } from "./marks";
import type { SliceKey } from "./slices";

export interface ChangedDeal {
	readonly id: string;
	readonly name: string;
	readonly account: string;
	readonly owner: string;
	/** what it adds to the step, and its amounts at both ends; base minor units */
	readonly amount: number;
	readonly before: number | null;
	readonly after: number | null;
	readonly closeBefore: string | null;
	readonly closeAfter: string | null;
	readonly stageBefore: string | null;
	readonly stageAfter: string | null;
	/** the other fields that differ, in words */
	readonly also: readonly string[];
}

export interface ChangedStep {
	readonly kind: StepKind | "opening" | "closing";
	readonly name: string;
	readonly leaves: boolean;
	readonly amount: number;
	readonly count: number;
	/** of the part that is looked at: of everything where none is */
	readonly shown: { readonly amount: number; readonly count: number };
	/** the largest first; all of them but where fewer were asked for */
	readonly deals: readonly ChangedDeal[];
}

/** How the comparison is looked at. */
export interface ChangesLook {
	readonly by?: SliceKey | undefined;
	/** only deals of this part of the field */
	readonly part?: string | undefined;
	/** the most deals of each step, and of the chosen one */
	readonly limit?: number;
	readonly step?: string | undefined;
	readonly all?: boolean;
}

export interface ChangesView {
	readonly headline: string;
	readonly causes: string;
	readonly currency: string;
	readonly opening: number;
	readonly closing: number;
	/** lost from outside the period: in no step, named beside them; the largest first */
	readonly lostOutside: { readonly amount: number; readonly count: number; readonly deals: readonly ChangedDeal[] };
	/** opening first, closing last */
	readonly steps: readonly ChangedStep[];
	readonly by: SliceKey;
	/** the parts of the chosen field, the largest net change first */
	readonly parts: readonly ChangedPart[];
	readonly fields: readonly { readonly key: SliceKey; readonly label: string }[];
	/** marks of either day whose seal no longer fits */
	readonly broken: readonly BrokenSeal[];
}

/** One part of the chosen field: opening + its steps + what came from other parts = closing. */
export interface ChangedPart {
	readonly part: string;
	readonly opening: number;
	readonly closing: number;
	readonly net: number;
	/** what came from other parts less what went to them, of deals that were in at both ends */
	readonly between: number;
	/** signed amount by kind of step */
	readonly steps: Readonly<Record<string, number>>;
}
