import { longDay } from "@/core/time/words";
import { listBoards, tellBoard } from "@/features/boards";
import { letterKind } from "./letter";

/** A board, read from top to bottom. */
export const boardLetter = letterKind({
	key: "board",
	label: "A board",
	of: { label: "Which board", hint: "Recipients need to see the board: share it with their team.", choices: listBoards },
	async read(context, viewpoint, of) {
		const told = await tellBoard(context, viewpoint, of);
		if (!told) return null;
		const { board, parts } = told;
		const subject = `${board.name}, ${longDay(viewpoint.seen.day)}`;
		return {
			subject,
			says: [`${subject}.`],
			parts,
			path: `/period/boards/${encodeURIComponent(board.id)}`,
		};
	},
});
