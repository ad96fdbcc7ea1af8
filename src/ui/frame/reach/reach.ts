/** Whether the server answers this page: it does, it doesn’t just now, or it runs another build than the one the page is of. */
export type Reach = "here" | "away" | "older";

/** so long after the last try the next one is made, in ms */
const PAUSES = [300, 1000, 2000, 3000] as const;
/** so long a try may take, in ms */
const PATIENCE = 5000;

let now: Reach = "here";
let back: Promise<void> | null = null;
const listeners = new Set<() => void>();

export const reachNow = (): Reach => now;

export function onReach(listener: () => void): () => void {
	listeners.add(listener);
	return () => void listeners.delete(listener);
}

function say(next: Reach): void {
	// A page that is too old stays so until it is loaded again.
	if (now === next || now === "older") return;
	now = next;
	for (const listener of [...listeners]) listener();
}

/** The server runs another build than this page is of: nothing is read into it any more. */
export const tooOld = () => say("older");

const answers = () =>
	fetch("/healthz", { method: "HEAD", cache: "no-store", signal: AbortSignal.timeout(PATIENCE) }).then(
		({ ok }) => ok,
		() => false,
	);

/** Resolves once the server answers. Those who were let down by it call this; one asks for all of them. */
export function untilReached(): Promise<void> {
	back ??= (async () => {
		for (let tries = 0; !(await answers()); tries++) {
			say("away");
			await new Promise((resolve) => setTimeout(resolve, PAUSES[Math.min(tries, PAUSES.length - 1)]));
		}
		say("here");
		back = null;
	})();
	return back;
}
