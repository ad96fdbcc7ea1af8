"use client";
import { type ReactNode, useEffect, useRef } from "react";

/** Says by classes on which sides more of it lies: a shadow there tells that it can be scrolled. */
function edges(element: HTMLElement): void {
	const { scrollLeft, scrollWidth, clientWidth } = element;
	element.classList.toggle("more-left", scrollLeft > 1);
	element.classList.toggle("more-right", scrollLeft + clientWidth < scrollWidth - 1);
}

/**
 * Holds what may be wider than its place, most often a table: a shadow says on which side there is more, the first column
 * stays, and it is reached and scrolled by keys.
 */
export function Scrolls({ of, className = "", children }: { of: string; className?: string; children: ReactNode }) {
	const frame = useRef<HTMLElement>(null);
	useEffect(() => {
		const element = frame.current;
		if (!element) return;
		const look = () => edges(element);
		const watcher = new ResizeObserver(look);
		watcher.observe(element);
		for (const child of element.children) watcher.observe(child);
		element.addEventListener("scroll", look, { passive: true });
		look();
		return () => {
			watcher.disconnect();
			element.removeEventListener("scroll", look);
		};
	}, []);
	return (
		<section ref={frame} className={`scrolls ${className}`} tabIndex={0} aria-label={`${of}, scrollable`}>
			{children}
		</section>
	);
}
