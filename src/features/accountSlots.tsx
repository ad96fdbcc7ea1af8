"use client";
import type { ReactNode } from "react";
import { GiveAtSlot } from "./accounts/ui/slots";
import { GiveAtAccounts } from "./tasks/ui/GiveAtAccounts";

/** What later capabilities show on the screens of accounts. */
export function AccountSlots({ children }: { children: ReactNode }) {
	return <GiveAtSlot.Fill by={GiveAtAccounts}>{children}</GiveAtSlot.Fill>;
}
