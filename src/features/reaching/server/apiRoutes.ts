import { z } from "zod";
import { page } from "@/platform/http/api";
import { apiRoute, list, paging } from "@/platform/http/apiRoute";
import { readWishes, removeWish, saveWish, wishSchema } from "./wishes";

export const reachingRoutes = [
	apiRoute({
		by: readWishes,
		id: "listSubscriptions",
		method: "get",
		path: "/subscriptions",
		summary: "Notification settings for each event",
		status: 200,
		answer: list(wishSchema),
		query: z.object(paging),
		run: async (context, { query }) => page((await readWishes(context)).wishes, query.cursor, query.limit),
	}),
	apiRoute({
		by: saveWish,
		id: "subscribe",
		method: "post",
		path: "/subscriptions",
		summary: "Set how you are notified of an event",
		status: 200,
		answer: z.object({}),
		body: saveWish.input,
		run: (context, { body }) => saveWish(context, body),
	}),
	apiRoute({
		by: removeWish,
		id: "unsubscribe",
		method: "delete",
		path: "/subscriptions/{kind}",
		summary: "Reset notifications of an event to the default; stop those of a view",
		status: 200,
		answer: z.object({}),
		query: z.object({ of: z.string().default("") }),
		run: (context, { params, query }) => removeWish(context, { kind: (params.kind ?? "") as "act", of: query.of }),
	}),
];
