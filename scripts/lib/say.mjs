/** Prints a line of progress, runs the work, and says how long it took when that was noticeable. */
export async function step(words, work) {
	const began = Date.now();
	process.stdout.write(`· ${words} …\n`);
	const dots = setInterval(() => process.stdout.write(`  still ${lower(words)} (${Math.round((Date.now() - began) / 1000)} s)\n`), 15_000);
	try {
		return await work();
	} finally {
		clearInterval(dots);
		const seconds = (Date.now() - began) / 1000;
		if (seconds > 2) process.stdout.write(`  done in ${seconds.toFixed(0)} s\n`);
	}
}

const lower = (words) => words.charAt(0).toLowerCase() + words.slice(1);

export function say(words) {
	process.stdout.write(`${words}\n`);
}

/** A failure whose message is all a person needs: no stack is printed. */
export class Halt extends Error {}

/** Runs a command's main function; a Halt ends it with its message. */
export async function main(work) {
	try {
		await work();
	} catch (error) {
		process.stderr.write(`\n${error instanceof Halt ? error.message : (error?.stack ?? error)}\n`);
		process.exit(1);
	}
}
