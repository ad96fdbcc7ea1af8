import type { Fate } from "@/core/rounds/promise";
import type { RoundTotals } from "@/data/schema";
import type { PromiseView } from "./promises";
import type { CallView } from "./readRound";

/** What was said of one deal. */
export interface MinutesDeal {
	readonly id: string;
	readonly name: string;
	readonly account: string;
	readonly owner: string;
	readonly ownerId: string | null;
	/** what its rep said of it then */
	readonly category: string | null;
	readonly amount: number;
	readonly call: CallView | null;
	readonly said: string;
	readonly note: string;
	readonly changes: readonly { readonly words: string; readonly by: string }[];
}

/** What every view of a round says of it. */
export interface RoundHead {
	readonly id: string;
	readonly kind: string;
	readonly name: string;
	readonly whose: string;
	readonly period: string;
	readonly on: string;
	readonly startedBy: string;
	readonly ended: boolean;
}

export interface MinutesView extends RoundHead {
	readonly note: string;
	/** null where it was kept as a whole that isn't theirs to see */
	readonly before: RoundTotals | null;
	readonly after: RoundTotals | null;
	/** the totals are of the people they see alone */
	readonly partial: boolean;
	readonly deals: readonly MinutesDeal[];
	readonly uncalled: number;
	readonly hidden: number;
	readonly promises: readonly PromiseView[];
	/** of what was promised in the rounds before, what came of it */
	readonly kept: Readonly<Record<Fate, number>>;
	readonly currency: string;
}
