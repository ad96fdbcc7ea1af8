/** What was typed into a field, under the name by which the person knows the field. */
export interface Typed {
	readonly label: string;
	readonly text: string;
}

const KEY = "porch-lamp-typed";
const FIELDS = 'textarea, input[type="text"], input[type="search"], input[type="number"], input[type="email"], input[type="url"], input:not([type])';

/** The framework keeps the attribute beside the value, so what a field first showed is noted when it gets the focus. */
const first = new WeakMap<Element, string>();
export const noteFirst = ({ target }: Event): void => {
	if (target instanceof HTMLInputElement || target instanceof HTMLTextAreaElement) if (!first.has(target)) first.set(target, target.value);
};

/** A label may hold its field, whose own text isn’t part of its name. */
function labelOf(field: HTMLInputElement | HTMLTextAreaElement): string {
	const named = [...(field.labels?.[0]?.childNodes ?? [])].filter((part) => part !== field).map((part) => part.textContent);
	return field.getAttribute("aria-label") ?? (named.join("").trim() || field.placeholder);
}

/** What was typed into the fields of the page and isn’t sent: never a password. */
export function typedHere(): Typed[] {
	return [...document.querySelectorAll<HTMLInputElement | HTMLTextAreaElement>(FIELDS)].flatMap((field) => {
		const text = field.value.trim();
		return text && first.has(field) && first.get(field) !== field.value ? [{ label: labelOf(field), text }] : [];
	});
}

/** Loads the page again, and keeps what was typed for the page that comes, in this window alone. */
export function reloadKeeping(): void {
	const typed = typedHere();
	if (typed.length) sessionStorage.setItem(KEY, JSON.stringify(typed));
	location.reload();
}

/** What was kept from before the page was loaded again; it is kept until it is taken away. */
export function typedBefore(): Typed[] {
	try {
		return JSON.parse(sessionStorage.getItem(KEY) ?? "[]") as Typed[];
	} catch {
		return [];
	}
}

export const forgetTyped = (): void => sessionStorage.removeItem(KEY);
