import { z } from "zod";
import { TASK_STATES } from "@/core/tasks/task";
import { call, list, paging, whose } from "@/platform/http/call";
import { scopeOf } from "@/platform/reach";
import { changeTask, taskChangeSchema } from "./changeTask";
import { giveTasks } from "./giveTasks";
import { listTasks } from "./readTasks";
import { taskSchema } from "./taskJson";

export const taskCalls = [
	call({
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
	call({
		id: "assignTasks",
		method: "post",
		path: "/tasks",
		summary: "Give a task for each of some deals, each to the owner of its deal",
		status: 201,
		answer: z.object({ tasks: z.array(taskSchema), kept: z.array(z.string()), afterClose: z.array(z.string()) }),
		body: giveTasks.input,
		run: (context, { body }) => giveTasks(context, body),
	}),
	call({
		id: "changeTask",
		method: "patch",
		path: "/tasks/{id}",
		summary: "Mark a task done or dropped, open it again, or change its day or note",
		status: 200,
		answer: taskSchema,
		body: taskChangeSchema,
		run: (context, { body, params }) => changeTask(context, { id: params.id ?? "", ...body }),
	}),
];
