"use client";
import { useHotkeys } from "react-hotkeys-hook";

/** Keys work while a box to select by is in focus, but not while somebody writes. */
const ON_BOXES = {
	enableOnFormTags: true,
	ignoreEventWhen: (event: KeyboardEvent) => (event.target as HTMLElement).closest('input:not([type="checkbox"]), textarea, select') !== null,
};

interface Does {
	move(step: 1 | -1): void;
	mark(): void;
	show(): void;
	assign(): void;
	edit(): void;
	/** null where no sheet is open, or nothing else is lit */
	readonly next: (() => void) | null;
	/** null where no sheet is open */
	readonly close: (() => void) | null;
}

/** The keys of the table of deals; none while a box of its own is open. */
export function useDealKeys(enabled: boolean, does: Does): void {
	const keys = { enabled, ...ON_BOXES };
	useHotkeys("j", () => does.move(1), keys);
	useHotkeys("k", () => does.move(-1), keys);
	useHotkeys("x", () => does.mark(), keys);
	useHotkeys("n", () => does.next?.(), { ...keys, enabled: enabled && does.next !== null });
	useHotkeys("enter", () => does.show(), {
		enabled,
		ignoreEventWhen: (event) => (event.target as HTMLElement).closest("button,a,input") !== null,
	});
	useHotkeys("escape", () => does.close?.(), { enabled: enabled && does.close !== null, enableOnFormTags: true });
	useHotkeys(
		"t",
		(event) => {
			event.preventDefault();
			does.assign();
		},
		keys,
	);
	useHotkeys(
		"e",
		(event) => {
			event.preventDefault();
			does.edit();
		},
		keys,
	);
}
