"use client";
import { createContext, type ReactNode, useContext, useMemo } from "react";

/** The rights a person has on the screen they look at: in the past nothing is written. */
const May = createContext<ReadonlySet<string>>(new Set());

export function MayProvider({ rights, children }: { rights: readonly string[]; children: ReactNode }) {
	const held = useMemo(() => new Set(rights), [rights]);
	return <May value={held}>{children}</May>;
}

/** Whether whoever looks at this screen may do something, by the name of the right. The server asks again when it is done. */
export const useMay = (right: string): boolean => useContext(May).has(right);
