import { z } from "zod";
import { page } from "@/platform/http/api";
import { apiRoute, list, paging } from "@/platform/http/apiRoute";
import { boardSchema, listBoards, makeBoard } from "./boards";

export const boardRoutes = [
	apiRoute({
		by: listBoards,
		id: "listBoards",
		method: "get",
		path: "/boards",
		summary: "Boards of one’s own and those shared with one’s team, by name",
		status: 200,
		answer: list(boardSchema),
		query: z.object(paging),
		run: async (context, { query }) => page(await listBoards(context), query.cursor, query.limit),
	}),
	apiRoute({
		by: makeBoard,
		id: "makeBoard",
		method: "post",
		path: "/boards",
		summary: "Make a board of tiles",
		status: 201,
		answer: boardSchema,
		body: makeBoard.input,
		run: (context, { body }) => makeBoard(context, body),
	}),
];
