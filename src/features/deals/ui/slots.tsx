"use client";
import { slot } from "@/ui/parts/slot";
import type { DealRow } from "../table/row";

/** What is to be given: for which deals (none: a task of its own), and what is known already. */
export interface Give {
	readonly dealIds: readonly string[];
	readonly title?: string;
	readonly flags?: readonly string[];
}

export interface DealPanel {
	readonly id: string;
	readonly seen: string;
	readonly against: string;
	readonly onClose: () => void;
	/** goes on to the next deal that is lit; null where none is left */
	readonly onNext: (() => void) | null;
	readonly onAssign: (give: Give) => void;
}

/** One deal beside the list. */
export const DealPanelSlot = slot<DealPanel>("a deal beside the list");

/** A list of open deals to be drawn, with what is marked of it and where the keys are. */
export interface DrawnDeals {
	readonly rows: readonly DealRow[];
	readonly currency: string;
	readonly today: string;
	readonly selected: ReadonlySet<string>;
	readonly here: string | null;
	readonly onOpen: (id: string) => void;
	readonly onMark: (ids: readonly string[]) => void;
}

/** The list as a picture over its table. */
export const DealPictureSlot = slot<DrawnDeals>("a picture of the list");

/** The dialog in which tasks are given; `onClose` says whether any were. */
export const GiveSlot = slot<{ readonly give: Give; readonly onClose: (done: boolean) => void }>("giving tasks");

/** The button that starts a round over selected deals. */
export const StartRoundSlot = slot<{ readonly dealIds: readonly string[]; readonly due: string }>("starting a round");
