"use client";
import { useSearchParams } from "next/navigation";
import { useCallback } from "react";

/** What of an address goes along from screen to screen: the sentence. */
const KEPT = ["whose", "due", "seen", "against"];

/** Makes addresses that keep the sentence; what is given beside it stands in them, null takes a part of the sentence out. */
export function useAddress(): (path: string, more?: Readonly<Record<string, string | null | undefined>>) => string {
	const params = useSearchParams();
	return useCallback(
		(path, more = {}) => {
			const query = new URLSearchParams([...params].filter(([name]) => KEPT.includes(name)));
			for (const [name, value] of Object.entries(more)) {
				if (value === null || value === undefined) query.delete(name);
				else query.set(name, value);
			}
			const text = query.toString();
			return text ? `${path}${path.includes("?") ? "&" : "?"}${text}` : path;
		},
		[params],
	);
}
