"use client";
import { type RefObject, useEffect, useLayoutEffect, useState } from "react";
import { flushSync } from "react-dom";

export const NARROW = "(max-width: 800px)";

export function useNarrow(): boolean {
	const [narrow, setNarrow] = useState(false);
	useEffect(() => {
		const media = window.matchMedia(NARROW);
		const follow = () => setNarrow(media.matches);
		follow();
		media.addEventListener("change", follow);
		return () => media.removeEventListener("change", follow);
	}, []);
	return narrow;
}

/** How far below the window's top an element begins: what is above it decides how much room it has. */
export function useTop(element: RefObject<HTMLElement | null>): number | null {
	const [top, setTop] = useState<number | null>(null);
	useLayoutEffect(() => {
		const found = element.current ? Math.round(element.current.getBoundingClientRect().top + window.scrollY) : null;
		setTop(found);
	});
	return top;
}

/** Paper gets all rows, not only those in view. */
export function usePrinting(): boolean {
	const [printing, setPrinting] = useState(false);
	useEffect(() => {
		const begin = () => flushSync(() => setPrinting(true));
		const end = () => setPrinting(false);
		window.addEventListener("beforeprint", begin);
		window.addEventListener("afterprint", end);
		return () => {
			window.removeEventListener("beforeprint", begin);
			window.removeEventListener("afterprint", end);
		};
	}, []);
	return printing;
}
