import { z } from "zod";
import { RULES } from "@/core/flags/list";
import { STAGE_KINDS } from "@/core/history/stage";
import { contextFor } from "@/platform/context";
import { Fault } from "@/platform/fault";
import { page } from "@/platform/http/api";
import { call, isoDay, list, paging, whose } from "@/platform/http/call";
import { dealSchema } from "./dealJson";
import { editDeals } from "./editDeals";
import { listDeals } from "./listDeals";
import { changeSchema } from "./planEdit";
import { dealDetailSchema, readDeal } from "./readDeal";

export const dealCalls = [
	call({
		by: listDeals,
		id: "listDeals",
		method: "get",
		path: "/deals",
		summary: "Deals as of a day, highest attention first",
		status: 200,
		answer: list(dealSchema),
		query: z.object({
			as_of: isoDay.optional(),
			from: isoDay.optional(),
			to: isoDay.optional(),
			...whose,
			flag: z.enum(RULES.map((rule) => rule.code) as [string, ...string[]]).optional(),
			status: z.enum(STAGE_KINDS).optional(),
			...paging,
		}),
		run: (context, { query }) => page(listDeals(context, query), query.cursor, query.limit),
	}),
	call({
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
	call({
		by: editDeals,
		id: "changeDeal",
		method: "patch",
		path: "/deals/{id}",
		summary: "Change a deal; If-Match names the version that was seen. 412 says who changed it since, and what",
		status: 200,
		answer: dealDetailSchema,
		body: changeSchema,
		ifMatch: true,
		run: async (context, { body, params, match }) => {
			const id = params.id ?? "";
			const versionId = Number(match.replace(/^W\//, "").replaceAll('"', ""));
			if (!Number.isInteger(versionId)) throw new Fault(400, "Bad request", "If-Match must be the versionId of the deal as it was seen.");
			await editDeals(context, { targets: [{ id, versionId }], change: body });
			const fresh = await contextFor(context.actor.person.id);
			return readDeal(fresh ?? context, id, undefined);
		},
	}),
];
