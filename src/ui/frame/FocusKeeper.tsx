"use client";
import { useEffect } from "react";

const FOCUSABLE = "a[href], button:not(:disabled), input:not(:disabled), select:not(:disabled), textarea:not(:disabled), [tabindex]:not([tabindex='-1'])";
/** Of these alone what has taken another's place is chosen: in a field the next key would be typed. */
const PRESSABLE = "a[href], button:not(:disabled), [tabindex]:not([tabindex='-1'], input, select, textarea)";
/** What lies over the page, and goes away by itself. */
const OVER = "[role='dialog'], .modal, .popover, .toast-container";

/** Where the focus was: the element, and each element around it with its place among its neighbours. */
interface Was {
	readonly element: HTMLElement;
	readonly name: string;
	readonly around: readonly { readonly element: Element; readonly place: number }[];
}

const nameOf = (element: Element) => `${element.tagName} ${element.getAttribute("aria-label") ?? element.textContent?.trim() ?? ""}`;
const usable = (element: HTMLElement) => element.isConnected && !element.matches(":disabled") && !element.closest("[hidden], [inert]");

function remember(element: HTMLElement): Was {
	const around: { element: Element; place: number }[] = [];
	for (let at: Element = element; at.parentElement; at = at.parentElement)
		around.push({ element: at.parentElement, place: [...at.parentElement.children].indexOf(at) });
	return { element, name: nameOf(element), around };
}

/**
 * The element that stands where another one was: itself, one of the same name in the nearest part of the page that is still
 * there, what has taken its place in a list, or that part of the page itself.
 */
function standsFor({ element, name, around }: Was): HTMLElement | null {
	if (usable(element)) return element;
	const near = around.find((one) => one.element.isConnected && one.element !== document.body && one.element !== document.documentElement);
	if (!near) return null;
	const inside = [...near.element.querySelectorAll<HTMLElement>(FOCUSABLE)];
	const same = inside.find((one) => nameOf(one) === name);
	if (same) return same;
	const children = near.element.children;
	const next = children[Math.min(near.place, children.length - 1)];
	const within = next && [next, ...next.querySelectorAll(PRESSABLE)].find((one) => one.matches(PRESSABLE));
	if (within instanceof HTMLElement) return within;
	const part = near.element as HTMLElement;
	if (!part.hasAttribute("tabindex")) part.tabIndex = -1;
	return part;
}

/**
 * Keeps the focus where the eye is: when what had it goes away (a row that was settled, a button that waits, a message that
 * was answered), it goes to what stands in its place, and never back to the top of the page.
 */
export function FocusKeeper() {
	useEffect(() => {
		let last: Was | null = null;
		let inPage: Was | null = null;
		/** left on purpose, by a key: what is still there isn’t gone back to */
		let left: HTMLElement | null = null;
		let due = 0;
		const came = (event: FocusEvent) => {
			if (!(event.target instanceof HTMLElement)) return;
			last = remember(event.target);
			left = null;
			if (!event.target.closest(OVER)) inPage = last;
		};
		// Who presses beside everything wants no focus.
		const pressed = (event: Event) => {
			if (event.target instanceof Element && !event.target.closest(FOCUSABLE)) last = null;
		};
		const leaves = (event: KeyboardEvent) => {
			const sends = event.key === "Enter" && (event.ctrlKey || event.metaKey);
			if ((event.key === "Escape" || sends) && event.target instanceof HTMLElement) left = event.target;
		};
		const look = () => {
			due = 0;
			const lost = document.activeElement === null || document.activeElement === document.body;
			if (!lost || !last) return;
			const waits = last.element.isConnected && last.element.matches(":disabled");
			if (waits || usable(last.element)) {
				if (!waits && last.element !== left) last.element.focus({ preventScroll: true });
				return;
			}
			const over = last.around.find(({ element }) => element.matches(OVER))?.element;
			// Behind a dialog that is gone stands what it was opened by.
			const to = over && !over.isConnected ? inPage && standsFor(inPage) : (standsFor(last) ?? (inPage && standsFor(inPage)));
			to?.focus({ preventScroll: true });
		};
		const changed = new MutationObserver(() => {
			// After a dialog that closes has given the focus back.
			due ||= window.setTimeout(look, 60);
		});
		document.addEventListener("focusin", came);
		document.addEventListener("pointerdown", pressed);
		document.addEventListener("keydown", leaves, true);
		changed.observe(document.body, { childList: true, subtree: true, attributes: true, attributeFilter: ["disabled"] });
		return () => {
			document.removeEventListener("focusin", came);
			document.removeEventListener("pointerdown", pressed);
			document.removeEventListener("keydown", leaves, true);
			changed.disconnect();
			window.clearTimeout(due);
		};
	}, []);
	useEffect(() => {
		document.addEventListener("keydown", enterGoesOn, true);
		return () => document.removeEventListener("keydown", enterGoesOn, true);
	}, []);
	return null;
}

type Field = HTMLInputElement | HTMLSelectElement | HTMLTextAreaElement;
const isField = (element: EventTarget | null): element is Field =>
	(element instanceof HTMLInputElement && !/^(checkbox|radio|button|submit|file)$/.test(element.type)) || element instanceof HTMLSelectElement;

/** In a form of a dialog, Enter goes to the next field that is needed and empty; where there is none, it saves. */
export function enterGoesOn(event: KeyboardEvent): void {
	if (event.key !== "Enter" || event.isComposing || event.defaultPrevented || event.ctrlKey || event.metaKey || event.altKey) return;
	const { target } = event;
	if (!isField(target) || !target.form?.closest("[role='dialog']")) return;
	const fields = [...target.form.querySelectorAll<Field>("[required]:not(:disabled)")];
	const empty = fields.filter((field) => !field.value.trim());
	const after = empty.find((field) => target.compareDocumentPosition(field) & Node.DOCUMENT_POSITION_FOLLOWING) ?? empty.find((field) => field !== target);
	if (after) {
		event.preventDefault();
		after.focus();
	} else if (!empty.length && target instanceof HTMLSelectElement) {
		event.preventDefault();
		target.form.requestSubmit();
	}
}
