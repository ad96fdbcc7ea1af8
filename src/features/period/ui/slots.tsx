"use client";
import type { ReactNode } from "react";
import { slot } from "@/ui/parts/slot";
import type { Band } from "./Beam";

/** What is known of where the period will end. */
export interface KnownOutlook {
	/** in base minor units; null while it isn't known, or can't be */
	readonly band: Band | null;
	/** where it ends, in a sentence or two */
	readonly words: ReactNode;
	/** the deals that decide it */
	readonly deciding: ReactNode;
	/** by deal; null while they aren't known */
	readonly chances: Chances | null;
}

/** The chances of open deals to be won in the period, from what came of past ones with so many days left; by id, 0 to 1. */
export type Chances = ReadonlyMap<string, number>;

interface Props {
	/** the write up to which the screen is known */
	readonly revision: number;
	/** false where there is nothing left to foretell */
	readonly wanted: boolean;
	readonly seen: string;
	readonly children: (known: KnownOutlook) => ReactNode;
}

/** The button that starts a round over some deals. */
export const RoundOverSlot = slot<{ readonly dealIds: readonly string[]; readonly due: string }>("a round over deals of the period");

/** The outlook of the period in the address, handed to what draws it. */
export const OutlookSlot = slot<Props>("the outlook of the period");
