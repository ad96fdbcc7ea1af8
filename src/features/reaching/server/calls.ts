import { z } from "zod";
import { page } from "@/platform/http/api";
import { call, list, paging } from "@/platform/http/call";
import { readWishes, removeWish, saveWish, wishSchema } from "./wishes";

export const reachingCalls = [
	call({
		by: readWishes,
		id: "listSubscriptions",
		method: "get",
		path: "/subscriptions",
		summary: "How one hears of each kind of happening",
		status: 200,
		answer: list(wishSchema),
		query: z.object(paging),
		run: async (context, { query }) => page((await readWishes(context)).wishes, query.cursor, query.limit),
	}),
	call({
		by: saveWish,
		id: "subscribe",
		method: "post",
		path: "/subscriptions",
		summary: "Say how one wishes to hear of a kind of happening",
		status: 200,
		answer: z.object({}),
		body: saveWish.input,
		run: (context, { body }) => saveWish(context, body),
	}),
	call({
		by: removeWish,
		id: "unsubscribe",
		method: "delete",
		path: "/subscriptions/{kind}",
		summary: "Hear of a kind of happening as usual again; of a view no more",
		status: 200,
		answer: z.object({}),
		query: z.object({ of: z.string().default("") }),
		run: (context, { params, query }) => removeWish(context, { kind: (params.kind ?? "") as "act", of: query.of }),
	}),
];
