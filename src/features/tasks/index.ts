import { capability } from "@/platform/capability";
import { taskCalls } from "./server/calls";
import { changeTask } from "./server/changeTask";
import { changeTasks, handBack, takeTask, undoTaskChanges } from "./server/changeTasks";
import { comeBack } from "./server/comeBack";
import { draftTasks } from "./server/draftTasks";
import { tasksFile } from "./server/files";
import { readFollowThrough, readTooLate } from "./server/followThrough";
import { giveEach, giveTasks, takeBackTasks } from "./server/giveTasks";
import { countDue, countLate, lateTasks, listTasks, readOwnTasks, readTaskPage, readTasks } from "./server/readTasks";

export { countDue, lateTasks, readOwnTasks, type TaskRow } from "./server/readTasks";
export { taskJson, taskSchema } from "./server/taskJson";

/** Who does what by when: tasks given, changed, taken back and listed. */
export const tasks = capability({
	key: "tasks",
	files: [tasksFile],
	commands: [giveTasks, giveEach, takeBackTasks, changeTask, changeTasks, handBack, takeTask, undoTaskChanges, comeBack],
	lookups: [draftTasks],
	queries: [readTasks, listTasks, readTaskPage, readOwnTasks, countLate, countDue, lateTasks, readFollowThrough, readTooLate],
	calls: taskCalls,
	rail: { path: "/tasks", words: "Tasks", key: "t", count: { says: "late", of: countLate } },
});
