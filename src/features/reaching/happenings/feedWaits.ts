import { runsLately } from "./feedCame";
import { happening } from "./happening";

const STATES: Readonly<Record<string, string>> = {
	waits: "waits for an answer",
	refused: "wasn’t imported",
	failed: "couldn’t be imported",
};

/** A file of a feed waits, was refused, or didn’t come by its hour. */
export const feedWaits = happening({
	kind: "feed-waits",
	label: "a file of a feed waits for an answer, isn’t imported or doesn’t come",
	usual: { onScreen: true, mail: "now" },
	async find(scan) {
		const rows = await runsLately(scan);
		return rows
			.filter(({ run }) => run.state === "missing" || run.state in STATES)
			.map(({ personId, run, feed }) => ({
				personId,
				key: run.id,
				facts: { feed: feed.name, file: run.name, state: run.state, words: run.words },
				path: "/setup?place=feeds",
			}));
	},
	say: ({ feed, file, state, words }) => (state === "missing" ? `${feed}: no file had come by ${file}` : `${feed}: ${file} ${STATES[String(state)]}. ${words}`),
});
