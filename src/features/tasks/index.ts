import { capability } from "@/platform/capability";
import { taskCalls } from "./server/calls";
import { changeTask } from "./server/changeTask";
import { comeBack } from "./server/comeBack";
import { tasksFile } from "./server/files";
import { giveTasks, takeBackTasks } from "./server/giveTasks";
import { countDue, countLate, lateTasks, listTasks, readOwnTasks, readTaskPage, readTasks } from "./server/readTasks";

export { countDue, lateTasks, readOwnTasks, type TaskRow } from "./server/readTasks";
export { taskJson, taskSchema } from "./server/taskJson";

/** Who does what by when: tasks given, changed, taken back and listed. */
export const tasks = capability({
	key: "tasks",
	files: [tasksFile],
	commands: [giveTasks, takeBackTasks, changeTask, comeBack],
	queries: [readTasks, listTasks, readTaskPage, readOwnTasks, countLate, countDue, lateTasks],
	calls: taskCalls,
	rail: { path: "/tasks", words: "Tasks", key: "t", count: { says: "late", of: countLate } },
});
