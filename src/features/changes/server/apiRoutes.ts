import { z } from "zod";
import { page } from "@/platform/http/api";
import { apiRoute, isoDay, list, paging, whose } from "@/platform/http/apiRoute";
import { bridgeSchema, readBridge } from "./bridgeJson";
import { keepMark, markSchema, readMarks } from "./marks";

export const changesRoutes = [
	apiRoute({
		by: readBridge,
		id: "bridge",
		method: "get",
		path: "/bridge",
		summary: "The steps from one day’s open pipeline to another’s",
		status: 200,
		answer: bridgeSchema,
		query: z.object({ a: isoDay, b: isoDay.optional(), from: isoDay.optional(), to: isoDay.optional(), ...whose }),
		run: (context, { query }) => readBridge(context, query),
	}),
	apiRoute({
		by: readMarks,
		id: "listMarks",
		method: "get",
		path: "/marks",
		summary: "Named moments to compare with, newest first",
		status: 200,
		answer: list(markSchema),
		query: z.object(paging),
		run: (context, { query }) => page(readMarks(context), query.cursor, query.limit),
	}),
	apiRoute({
		by: keepMark,
		id: "keepMark",
		method: "post",
		path: "/marks",
		summary: "Save this moment as a sealed mark",
		status: 201,
		answer: markSchema,
		body: keepMark.input,
		run: (context, { body }) => keepMark(context, body),
	}),
];
