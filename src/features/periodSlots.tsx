"use client";
import type { ReactNode } from "react";
import { PeriodOutlook } from "./patterns/ui/PeriodOutlook";
import { OutlookSlot } from "./period/ui/slots";

/** What later capabilities show on Period. */
export function PeriodSlots({ children }: { children: ReactNode }) {
	return <OutlookSlot.Fill by={PeriodOutlook}>{children}</OutlookSlot.Fill>;
}
