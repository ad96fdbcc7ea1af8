const YEAR = 365 * 86_400;

/**
 * Day becomes dusk, dusk day, and this browser remembers it.
 * The browser keeps the cookie itself: a page opened in the same moment already has it, and it needs no connection.
 */
export function otherTheme(): void {
	const root = document.documentElement;
	const next = root.dataset.bsTheme === "dark" ? "light" : "dark";
	root.dataset.bsTheme = next;
	// biome-ignore lint/suspicious/noDocumentCookie: the cookie store isn't in every browser
	document.cookie = `porch_lamp_theme=${next}; path=/; samesite=lax; max-age=${YEAR}`;
}
