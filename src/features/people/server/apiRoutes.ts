import { z } from "zod";
import { page } from "@/platform/http/api";
import { apiRoute, list, paging } from "@/platform/http/apiRoute";
import { createKey, listKeys, revokeKey } from "./keys";

const keySchema = z.object({
	id: z.string(),
	name: z.string(),
	hint: z.string(),
	person: z.string(),
	personId: z.string(),
	createdAt: z.iso.datetime(),
	lastUsedAt: z.iso.datetime().nullable(),
	write: z.boolean(),
	areas: z.array(z.string()),
	expiresAt: z.iso.datetime().nullable(),
});

export const peopleRoutes = [
	apiRoute({
		by: listKeys,
		id: "listKeys",
		method: "get",
		path: "/keys",
		summary: "Your API keys (everyone’s for ops), without their secrets",
		status: 200,
		answer: list(keySchema),
		query: z.object(paging),
		run: async (context, { query }) => page(await listKeys(context), query.cursor, query.limit),
	}),
	apiRoute({
		by: createKey,
		id: "createKey",
		method: "post",
		path: "/keys",
		summary: "Create key; its token is in this answer only",
		status: 201,
		answer: z.object({ id: z.string(), token: z.string() }),
		body: createKey.input,
		run: (context, { body }) => createKey(context, body),
	}),
	apiRoute({
		by: revokeKey,
		id: "revokeKey",
		method: "delete",
		path: "/keys/{id}",
		summary: "Revoke a key",
		status: 204,
		run: (context, { params }) => revokeKey(context, { id: params.id ?? "" }),
	}),
];
