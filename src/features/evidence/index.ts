import { capability } from "@/platform/capability";
import { answerCell, answerQuestion } from "./server/answerQuestion";
import { readEvidence } from "./server/readEvidence";

/** How well deals are qualified: the grid of deals and questions, and the answers. */
export const evidence = capability({
	key: "evidence",
	commands: [answerQuestion, answerCell],
	queries: [readEvidence],
	rail: { path: "/evidence", label: "Evidence", key: "e" },
	keys: [
		{ key: "Arrows", label: "from answer to answer", on: "/evidence", where: "In the grid of evidence" },
		{ key: "0, 1, 2, 4", label: "answer where it stands: unknown, assumed, heard, against us", on: "/evidence", where: "In the grid of evidence" },
		{ key: "Enter", label: "open the deal", on: "/evidence", where: "In the grid of evidence" },
	],
});
