/** `Firefox on Windows`, as far as a browser says what it is. */
export function browserWords(agent: string): string {
	const browser = /Firefox|Edg|OPR|Chrome|Safari/.exec(agent.replace("HeadlessChrome", "Chrome"))?.[0];
	const system = /Windows|Android|iPhone|iPad|Mac OS|Linux/.exec(agent)?.[0];
	const name = browser === "Edg" ? "Edge" : browser === "OPR" ? "Opera" : browser;
	return [name ?? "A browser", system].filter(Boolean).join(" on ");
}
