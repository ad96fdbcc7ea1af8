import { capability } from "@/platform/capability";
import { boardRoutes } from "./server/apiRoutes";
import { changeBoard, listBoards, makeBoard, removeBoard } from "./server/boards";
import { boardReaders, openBoardsFor, openingBoard, openWithBoard } from "./server/openings";

export { listBoards } from "./server/boards";
export { dealsOfView } from "./server/dealsOfView";
export { tellBoard } from "./server/told";
export { briefDeals, dealsTable } from "./server/told/deals";

/** Pages of tiles that people arrange for themselves: figures, lists, charts, views and texts, each opening what it shows. */
export const boards = capability({
	key: "boards",
	commands: [makeBoard, changeBoard, removeBoard, openWithBoard, openBoardsFor],
	queries: [listBoards, openingBoard, boardReaders],
	api: boardRoutes,
	keys: [
		{ key: "Arrows", label: "move the tile that has the focus, while the board is arranged", on: "/period/boards/", where: "On a board" },
		{ key: "Shift and arrows", label: "make it wider, narrower, taller or shorter", on: "/period/boards/", where: "On a board" },
		{ key: "Delete", label: "remove the tile", on: "/period/boards/", where: "On a board" },
	],
});
