import { capability } from "@/platform/capability";
import { answerQuestion } from "./server/answerQuestion";
import { readEvidence } from "./server/readEvidence";

/** How well deals are qualified: the grid of deals and questions, and the answers. */
export const evidence = capability({
	key: "evidence",
	commands: [answerQuestion],
	queries: [readEvidence],
	rail: { path: "/evidence", words: "Evidence", key: "e" },
});
