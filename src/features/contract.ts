import { z } from "zod";
import { RULES } from "@/core/flags/list";
import { bridgeSchema, readBridge } from "@/features/changes/server/bridgeJson";
import { keepMark, markSchema, newMarkSchema, readMarks } from "@/features/changes/server/marks";
import { dealSchema } from "@/features/deals/server/dealJson";
import { editDeals } from "@/features/deals/server/editDeals";
import { listDeals, scopeOf } from "@/features/deals/server/listDeals";
import { changeSchema } from "@/features/deals/server/planEdit";
import { dealDetailSchema, readDeal } from "@/features/deals/server/readDeal";
import { importSchema, listImports, readImport } from "@/features/import/server/importBundle";
import { createKey, keySchema, listKeys, revokeKey } from "@/features/people/server/keys";
import { changeTask, changeTaskSchema } from "@/features/tasks/server/changeTask";
import { assignSchema, assignTasks } from "@/features/tasks/server/giveTasks";
import { readTasks } from "@/features/tasks/server/readTasks";
import { taskSchema } from "@/features/tasks/server/taskJson";
import { type Context, contextFor } from "@/platform/context";
import { Fault } from "@/platform/fault";
import { page } from "@/platform/http/api";

/** One call of the API: what it takes, what it gives, and the use case behind it. Route handlers and the OpenAPI document both come from it. */
export interface Endpoint {
	readonly method: "get" | "post" | "patch" | "delete";
	readonly path: string;
	readonly summary: string;
	readonly query?: z.ZodObject;
	readonly body?: z.ZodType;
	readonly status: number;
	readonly answer?: z.ZodType;
	/** what is to be changed is named by the header If-Match */
	readonly ifMatch?: boolean;
	readonly run: (context: Context, input: { query: never; body: never; params: Record<string, string>; match: string }) => unknown;
}

interface Typed<Q extends z.ZodObject, B extends z.ZodType> extends Omit<Endpoint, "run" | "query" | "body"> {
	readonly query?: Q;
	readonly body?: B;
	readonly run: (context: Context, input: { query: z.output<Q>; body: z.output<B>; params: Record<string, string>; match: string }) => unknown;
}
const endpoint = <Q extends z.ZodObject = z.ZodObject, B extends z.ZodType = z.ZodType>(given: Typed<Q, B>): Endpoint => given as unknown as Endpoint;

const isoDay = z.iso.date("This must be an ISO day, such as 2026-11-24.");
const paging = {
	cursor: z.string().optional().meta({ description: "`next` of the page before" }),
	limit: z.coerce.number().int().min(1).max(1000).default(200),
};
const scope = { team: z.string().optional(), owner: z.string().optional() };
const list = <T extends z.ZodType>(item: T) => z.object({ items: z.array(item), next: z.string().nullable() });
const keyItem = z.object({
	id: z.string(),
	name: z.string(),
	hint: z.string(),
	person: z.string(),
	personId: z.string(),
	createdAt: z.iso.datetime(),
	lastUsedAt: z.iso.datetime().nullable(),
});

export const ENDPOINTS = {
	listDeals: endpoint({
		method: "get",
		path: "/deals",
		summary: "Deals as seen on a day, the most worrying first",
		status: 200,
		answer: list(dealSchema),
		query: z.object({
			as_of: isoDay.optional(),
			from: isoDay.optional(),
			to: isoDay.optional(),
			...scope,
			flag: z.enum(RULES.map((rule) => rule.code) as [string, ...string[]]).optional(),
			status: z.enum(["open", "won", "lost"]).optional(),
			...paging,
		}),
		run: (context, { query }) => page(listDeals(context, query), query.cursor, query.limit),
	}),
	readDeal: endpoint({
		method: "get",
		path: "/deals/{id}",
		summary: "One deal as seen on a day, with versions, activities, answers and tasks",
		status: 200,
		answer: dealDetailSchema,
		query: z.object({ as_of: isoDay.optional() }),
		run: (context, { query, params }) => readDeal(context, params.id ?? "", query.as_of),
	}),
	changeDeal: endpoint({
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
			await editDeals(context, [{ id, versionId }], body);
			const fresh = await contextFor(context.actor.person.id);
			return readDeal(fresh ?? context, id, undefined);
		},
	}),
	bridge: endpoint({
		method: "get",
		path: "/bridge",
		summary: "The steps from one day's open pipeline to another's",
		status: 200,
		answer: bridgeSchema,
		query: z.object({ a: isoDay, b: isoDay.optional(), from: isoDay.optional(), to: isoDay.optional(), ...scope }),
		run: (context, { query }) => readBridge(context, query),
	}),
	listMarks: endpoint({
		method: "get",
		path: "/marks",
		summary: "Named moments to compare with, the newest first",
		status: 200,
		answer: list(markSchema),
		query: z.object(paging),
		run: (context, { query }) => page(readMarks(context), query.cursor, query.limit),
	}),
	keepMark: endpoint({
		method: "post",
		path: "/marks",
		summary: "Keep this moment as a mark, sealed",
		status: 201,
		answer: markSchema,
		body: newMarkSchema,
		run: (context, { body }) => keepMark(context, body),
	}),
	listTasks: endpoint({
		method: "get",
		path: "/tasks",
		summary: "Tasks of the people you see",
		status: 200,
		answer: list(taskSchema),
		query: z.object({ ...scope, state: z.enum(["open", "done", "dropped"]).optional(), deal: z.string().optional(), ...paging }),
		run: async (context, { query }) => {
			const rows = await readTasks(context, scopeOf(context, query.team, query.owner), context.now.day);
			const found = rows.filter((task) => (!query.state || task.state === query.state) && (!query.deal || task.dealId === query.deal));
			return page(
				found.map((task) => taskSchema.parse(task)),
				query.cursor,
				query.limit,
			);
		},
	}),
	assignTasks: endpoint({
		method: "post",
		path: "/tasks",
		summary: "Give a task for each of some deals, each to the owner of its deal",
		status: 201,
		answer: z.object({ tasks: z.array(taskSchema), kept: z.array(z.string()), afterClose: z.array(z.string()) }),
		body: assignSchema,
		run: (context, { body }) => assignTasks(context, body),
	}),
	changeTask: endpoint({
		method: "patch",
		path: "/tasks/{id}",
		summary: "Mark a task done or dropped, open it again, or change its day or note",
		status: 200,
		answer: taskSchema,
		body: changeTaskSchema,
		run: (context, { body, params }) => changeTask(context, params.id ?? "", body),
	}),
	listKeys: endpoint({
		method: "get",
		path: "/keys",
		summary: "Your API keys (everyone's for ops), without their secrets",
		status: 200,
		answer: list(keyItem),
		query: z.object(paging),
		run: async (context, { query }) => page(await listKeys(context), query.cursor, query.limit),
	}),
	createKey: endpoint({
		method: "post",
		path: "/keys",
		summary: "Make a key; its token is in this answer only",
		status: 201,
		answer: z.object({ id: z.string(), token: z.string() }),
		body: keySchema,
		run: (context, { body }) => createKey(context, body),
	}),
	revokeKey: endpoint({
		method: "delete",
		path: "/keys/{id}",
		summary: "Revoke a key",
		status: 204,
		run: (context, { params }) => revokeKey(context, params.id ?? ""),
	}),
	listImports: endpoint({
		method: "get",
		path: "/imports",
		summary: "The last twenty imports",
		status: 200,
		answer: list(importSchema),
		query: z.object(paging),
		run: async (context, { query }) => page(await listImports(context), query.cursor, query.limit),
	}),
	readImport: endpoint({
		method: "get",
		path: "/imports/{id}",
		summary: "An import: its progress, then its report",
		status: 200,
		answer: importSchema,
		run: (context, { params }) => readImport(context, params.id ?? ""),
	}),
} satisfies Record<string, Endpoint>;
