import { z } from "zod";
import { apiRoute } from "@/platform/http/apiRoute";
import { apiName, PUSHED } from "./kinds";
import { MOST_ROWS, pushedRowSchema, pushOne, pushRows } from "./pushRows";

const fateSchema = z
	.object({
		id: z.string(),
		fate: z.enum(["created", "updated", "refused"]),
		problems: z.array(z.object({ field: z.string().nullable(), reason: z.string() })),
	})
	.meta({ id: "PushedRow" });

/** What another system pushes: one row by its own id, or many with each one’s fate. */
export const pushRoutes = PUSHED.flatMap(({ key, one, columns, state }) => {
	const fields = [...columns, ...(state?.columns ?? [])].map(apiName).join(", ");
	const described = `Fields as in the bundle: ${fields}${state ? "; `at` says since when its state is so" : ""}. What isn’t given stays. Amounts in minor units`;
	const name = `${key.slice(0, 1).toUpperCase()}${key.slice(1)}`;
	return [
		apiRoute({
			by: pushRows,
			id: `put${name}`,
			method: "put",
			path: `/${key}/{id}`,
			summary: `Write ${one === "activity" || one === "account" ? "an" : "a"} ${one} by your own id; the same again changes nothing. ${described}`,
			status: 200,
			answer: fateSchema,
			body: pushedRowSchema,
			run: (context, { params, body }) => pushOne(context, key, params.id ?? "", body),
		}),
		apiRoute({
			by: pushRows,
			id: `push${name}`,
			method: "post",
			path: `/batches/${key}`,
			summary: `Write up to ${MOST_ROWS} ${key} at once, each whole or not at all, with what became of it. ${described}`,
			status: 200,
			answer: z.object({ items: z.array(fateSchema) }),
			body: z.object({ items: z.array(pushedRowSchema) }),
			run: async (context, { body }) => ({ items: await pushRows(context, { kind: key, rows: body.items }) }),
		}),
	];
});
