import { z } from "zod";
import { TASK_STATES } from "@/core/tasks/task";
import { parseDay } from "@/core/time/day";
import { quarterOf } from "@/core/time/period";
import { Fault } from "@/platform/fault";
import { page } from "@/platform/http/api";
import { apiRoute, list, paging, whose } from "@/platform/http/apiRoute";
import { dayInput } from "@/platform/input";
import { scopeOf } from "@/platform/reach";
import { changeTask, taskChangeSchema } from "./changeTask";
import { handBack } from "./changeTasks";
import { followThroughSchema, readFollowThrough } from "./followThrough";
import { giveEach, giveTasks } from "./giveTasks";
import { giveKit, kitSchema, readKits, saveKit } from "./kits";
import { listTasks } from "./readTasks";
import { takeTask } from "./takeTask";
import { taskSchema } from "./taskJson";

export const taskRoutes = [
	apiRoute({
		by: listTasks,
		id: "listTasks",
		method: "get",
		path: "/tasks",
		summary: "Tasks of the people you see",
		status: 200,
		answer: list(taskSchema),
		query: z.object({ ...whose, state: z.enum(TASK_STATES).optional(), deal: z.string().optional(), ...paging }),
		run: async (context, { query }) => {
			const { items, next } = await listTasks(context, scopeOf(context, query.team, query.owner), query);
			return { items: items.map((task) => taskSchema.parse(task)), next };
		},
	}),
	apiRoute({
		by: giveTasks,
		id: "assignTasks",
		method: "post",
		path: "/tasks",
		summary: "Give a task for each deal, to its owner",
		status: 201,
		answer: z.object({ tasks: z.array(taskSchema), kept: z.array(z.string()), afterClose: z.array(z.string()) }),
		body: giveTasks.input,
		run: (context, { body }) => giveTasks(context, body),
	}),
	apiRoute({
		by: giveEach,
		id: "giveEachTask",
		method: "post",
		path: "/tasks/each",
		summary: "Give different tasks: each with its own text, day and person, about a deal or none",
		status: 201,
		answer: z.object({ tasks: z.array(taskSchema), kept: z.array(z.string()), afterClose: z.array(z.string()) }),
		body: giveEach.input,
		run: (context, { body }) => giveEach(context, body),
	}),
	apiRoute({
		by: takeTask,
		id: "takeTask",
		method: "post",
		path: "/tasks/{id}/take",
		summary: "Take a task given to a team",
		status: 200,
		answer: taskSchema,
		run: (context, { params }) => takeTask(context, { id: params.id ?? "" }),
	}),
	apiRoute({
		by: handBack,
		id: "handBackTask",
		method: "post",
		path: "/tasks/{id}/hand-back",
		summary: "Hand a task back to the person who gave it, with a reason",
		status: 200,
		answer: taskSchema,
		body: z.object({ why: z.string() }).meta({ id: "HandBack" }),
		run: (context, { params, body }) => handBack(context, { id: params.id ?? "", why: body.why }),
	}),
	apiRoute({
		by: readFollowThrough,
		id: "readFollowThrough",
		method: "get",
		path: "/follow-through",
		summary: "What happened to the tasks given to some people in a period, and of the flags they name",
		status: 200,
		answer: followThroughSchema,
		query: z.object({ ...whose, from: dayInput.optional(), to: dayInput.optional(), as_of: dayInput.optional() }),
		run: (context, { query }) => {
			const seen = query.as_of === undefined ? context.now.day : (parseDay(query.as_of) as number);
			const quarter = quarterOf(seen, context.organisation.company.rules.fiscal);
			const period = { start: parseDay(query.from ?? "") ?? quarter.start, end: parseDay(query.to ?? "") ?? quarter.end };
			if (period.end < period.start) throw new Fault(400, "End is before start", "“to” is before “from”.");
			return readFollowThrough(context, scopeOf(context, query.team, query.owner), period, seen);
		},
	}),
	apiRoute({
		by: changeTask,
		id: "changeTask",
		method: "patch",
		path: "/tasks/{id}",
		summary: "Mark a task done or dropped, open it again, or change its day or note",
		status: 200,
		answer: taskSchema,
		body: taskChangeSchema,
		run: (context, { body, params }) => changeTask(context, { id: params.id ?? "", ...body }),
	}),
	apiRoute({
		by: readKits,
		id: "listKits",
		method: "get",
		path: "/kits",
		summary: "Named sets of tasks with offsets in working days",
		status: 200,
		answer: list(kitSchema),
		query: z.object(paging),
		run: async (context, { query }) => page(await readKits(context), query.cursor, query.limit),
	}),
	apiRoute({
		by: saveKit,
		id: "makeKit",
		method: "post",
		path: "/kits",
		summary: "Create kit, or change one by its id and the version that was seen",
		status: 201,
		answer: z.object({ id: z.string(), version: z.number().int() }),
		body: saveKit.input,
		run: (context, { body }) => saveKit(context, body),
	}),
	apiRoute({
		by: giveKit,
		id: "giveKit",
		method: "post",
		path: "/kits/{id}/give",
		summary: "Give all tasks of a kit for some deals",
		status: 201,
		answer: z.object({ tasks: z.array(taskSchema), kept: z.array(z.string()), afterClose: z.array(z.string()) }),
		body: z.object({ dealIds: z.array(z.string()).min(1), assigneeId: z.string().optional(), team: z.string().optional() }).meta({ id: "GiveKit" }),
		run: (context, { params, body }) => giveKit(context, { ...body, id: params.id ?? "" }),
	}),
];
