import { address } from "@/platform/address";
import type { Feed, FeedRun } from "./deliver";

const SAID: Readonly<Record<FeedRun["state"], string>> = {
	reading: "is being read",
	imported: "was imported",
	known: "was here already",
	waits: "waits for an answer in Setup, Feeds",
	refused: "wasn’t imported",
	failed: "couldn’t be imported",
	missing: "hasn’t come",
};

/** What came of a file, in a line: `pipeline.csv was imported: 12 new deals, 30 changed, 2 missing.` */
export const headOf = ({ name, state, words }: Pick<FeedRun, "name" | "state" | "words">): string =>
	state === "missing" ? `No file had come by ${name}.` : `${name} ${SAID[state]}${words ? `: ${words}` : "."}`;

/** Where it is looked at: the comparison of a weekly file with the one before, else the feed. */
export const pathOf = ({ state, day, before }: Pick<FeedRun, "state" | "day" | "before">): string =>
	state === "imported" && day && before ? `/changes?due=any&seen=${day}&against=${before}` : "/setup?place=feeds";

/** The report of a file, as it lies beside it or is answered by mail. */
export const reportOf = (feed: Pick<Feed, "name">, run: FeedRun): string =>
	[headOf(run), `Feed: ${feed.name}. Came by ${run.way}${run.sender ? ` from ${run.sender}` : ""}.`, address(pathOf(run))].join("\n");
