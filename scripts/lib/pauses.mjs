const FIRST = 500;
/** ms; shorter only where the program is killed on purpose, again and again */
const LONGEST = Number(process.env.PORCH_LAMP_LONGEST_PAUSE) || 5000;
/** what ran for so long has recovered: its next end is a first one again */
const RECOVERED = 60_000;

/**
 * How long to wait before something that ended is started again: twice as long each time, until it has run well for a
 * while. Times in ms; `last` is the pause before, 0 when there was none; `ran` is how long it lasted.
 */
export const nextPause = (last, ran) => (ran >= RECOVERED || last === 0 ? FIRST : Math.min(LONGEST, last * 2));

/** Remembers the pauses of one thing that is started again and again: `began` when it starts, `next` when it ended. */
export function pauses() {
	let last = 0;
	let at = Date.now();
	return {
		began: () => {
			at = Date.now();
		},
		next: () => {
			last = nextPause(last, Date.now() - at);
			return last;
		},
	};
}
