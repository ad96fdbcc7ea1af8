import { z } from "zod";
import { page } from "@/platform/http/api";
import { apiRoute, list, paging } from "@/platform/http/apiRoute";
import { hookSchema, makeHook, readHooks, removeHook } from "./hooks";

export const webhookApi = [
	apiRoute({
		by: readHooks,
		id: "listWebhooks",
		method: "get",
		path: "/webhooks",
		summary: "Addresses that are called when tasks are given or change",
		status: 200,
		answer: list(hookSchema),
		query: z.object(paging),
		run: async (context, { query }) => page((await readHooks(context)).hooks, query.cursor, query.limit),
	}),
	apiRoute({
		by: makeHook,
		id: "makeWebhook",
		method: "post",
		path: "/webhooks",
		summary: "Create a webhook; its secret is shown only in this answer",
		status: 201,
		answer: z.object({ id: z.string(), secret: z.string() }),
		body: makeHook.input,
		run: (context, { body }) => makeHook(context, body),
	}),
	apiRoute({
		by: removeHook,
		id: "removeWebhook",
		method: "delete",
		path: "/webhooks/{id}",
		summary: "Delete a webhook",
		status: 200,
		answer: z.object({}),
		run: (context, { params }) => removeHook(context, { id: params.id ?? "" }),
	}),
];
