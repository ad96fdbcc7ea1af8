import { z } from "zod";
import { page } from "@/platform/http/api";
import { apiRoute, isoDay, list, paging, whose } from "@/platform/http/apiRoute";
import { listTries } from "./listTries";
import { periodSchema, readPeriodOfApi } from "./periodJson";
import { saveTry } from "./tries";
import { trySchema } from "./tryShape";

export const periodRoutes = [
	apiRoute({
		by: readPeriodOfApi,
		id: "period",
		method: "get",
		path: "/period",
		summary: "Where a period stands: won, open by category, target, gap and cover, pace, by person and team",
		status: 200,
		answer: periodSchema,
		query: z.object({ from: isoDay.optional(), to: isoDay.optional(), as_of: isoDay.optional(), against: isoDay.optional(), ...whose }),
		run: (context, { query }) => readPeriodOfApi(context, query),
	}),
	apiRoute({
		by: listTries,
		id: "listTries",
		method: "get",
		path: "/tries",
		summary: "What was tried on a copy of a period, one’s own and what is shared with one’s team, the newest first",
		status: 200,
		answer: list(trySchema),
		query: z.object(paging),
		run: async (context, { query }) => page(await listTries(context), query.cursor, query.limit),
	}),
	apiRoute({
		by: saveTry,
		id: "keepTry",
		method: "post",
		path: "/tries",
		summary: "Keep a try: moves of deals or groups of them on a copy of a period; nothing real changes",
		status: 201,
		answer: trySchema,
		body: saveTry.input,
		run: (context, { body }) => saveTry(context, body),
	}),
];
