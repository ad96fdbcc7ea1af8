/** stands for wherever the program is */
const HERE = "http://here.invalid";

/** A text with what is encoded in it written out, however often it was encoded; null where it can't be. */
function writtenOut(text: string): string | null {
	let now = text;
	for (let times = 0; times < 5; times++) {
		let next: string;
		try {
			next = decodeURIComponent(now);
		} catch {
			return null;
		}
		if (next === now) return now;
		now = next;
	}
	return null;
}

/**
 * A path of our own to go to after signing in, as it was asked for; `/` where it would lead elsewhere, or might once a
 * browser or a proxy has tidied it up.
 *
 * @example safePath("/deals?due=any") // "/deals?due=any"
 * @example safePath("/.//host/") // "/"
 */
export function safePath(asked: string): string {
	const plain = writtenOut(asked);
	// biome-ignore lint/suspicious/noControlCharactersInRegex: browsers leave them out and go on
	if (plain === null || !asked.startsWith("/") || /[\\\u0000-\u001f\u007f]/.test(plain) || /^\/(\.*\/)/.test(plain)) return "/";
	try {
		const url = new URL(asked, HERE);
		if (url.origin !== HERE || url.pathname.includes("//")) return "/";
		return `${url.pathname}${url.search}${url.hash}`;
	} catch {
		return "/";
	}
}
