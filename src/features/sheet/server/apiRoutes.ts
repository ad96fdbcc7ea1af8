import { z } from "zod";
import { changeSchema, editDeals } from "@/features/deals";
import { contextFor } from "@/platform/context";
import { apiRoute, isoDay } from "@/platform/http/apiRoute";
import { dealDetailSchema, readDeal } from "./readDeal";

export const sheetRoutes = [
	apiRoute({
		by: readDeal,
		id: "readDeal",
		method: "get",
		path: "/deals/{id}",
		summary: "One deal as of a day, with versions, activities, answers and tasks",
		status: 200,
		answer: dealDetailSchema,
		query: z.object({ as_of: isoDay.optional() }),
		run: (context, { query, params }) => readDeal(context, params.id ?? "", query.as_of),
	}),
	apiRoute({
		by: editDeals,
		id: "changeDeal",
		method: "patch",
		path: "/deals/{id}",
		summary: "Change a deal; If-Match names the version that was seen. 412 says who changed it since, and what",
		status: 200,
		answer: dealDetailSchema,
		body: changeSchema,
		ifMatch: true,
		run: async (context, { body, params, version }) => {
			const id = params.id ?? "";
			await editDeals(context, { targets: [{ id, versionId: version }], change: body });
			const fresh = await contextFor(context.actor.person.id);
			return readDeal(fresh ?? context, id, undefined);
		},
	}),
];
