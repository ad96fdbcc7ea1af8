import type { ReactNode } from "react";

/** Holds what may be wider than its place, most often a table; whoever has no mouse can go to it and scroll it by its keys. */
export function Scrolls({ of, className = "", children }: { of: string; className?: string; children: ReactNode }) {
	return (
		<section className={`scrolls ${className}`} tabIndex={0} aria-label={`${of}, scrollable`}>
			{children}
		</section>
	);
}
