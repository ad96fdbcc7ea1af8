"use client";
import { createContext, type ReactNode, useContext } from "react";

/** The program's today, ISO: it may be fixed, and isn't the browser's. */
const Today = createContext<string | null>(null);

export function TodayProvider({ today, children }: { today: string; children: ReactNode }) {
	return <Today value={today}>{children}</Today>;
}

/** The program's today, ISO; outside of the frame the browser's own. */
export const useToday = (): string => useContext(Today) ?? new Date().toISOString().slice(0, 10);
