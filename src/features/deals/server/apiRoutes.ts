import { z } from "zod";
import { RULES } from "@/core/flags/list";
import { STAGE_KINDS } from "@/core/history/stage";
import { apiRoute, isoDay, list, paging, whose } from "@/platform/http/apiRoute";
import { dealSchema } from "./dealJson";
import { listDeals } from "./listDeals";

export const dealRoutes = [
	apiRoute({
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
		run: (context, { query }) => listDeals(context, query, query),
	}),
];
