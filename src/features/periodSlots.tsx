"use client";
import type { ReactNode } from "react";
import { PeriodOutlook } from "./patterns/ui/PeriodOutlook";
import { OutlookSlot, RoundOverSlot } from "./period/ui/slots";
import { HoldRound } from "./rounds/ui/HoldRound";

/** What later capabilities show on Period. */
export function PeriodSlots({ children }: { children: ReactNode }) {
	return (
		<OutlookSlot.Fill by={PeriodOutlook}>
			<RoundOverSlot.Fill by={HoldRound}>{children}</RoundOverSlot.Fill>
		</OutlookSlot.Fill>
	);
}
