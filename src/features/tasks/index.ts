import { capability } from "@/platform/capability";
import { taskRoutes } from "./server/apiRoutes";
import { changeTask } from "./server/changeTask";
import { changeTasks, handBack } from "./server/changeTasks";
import { comeBack } from "./server/comeBack";
import { draftTasks } from "./server/draftTasks";
import { tasksFile } from "./server/files";
import { readFollowedTasks, readFollowThrough, readTooLate } from "./server/followThrough";
import { giveEach, giveTasks, takeBackTasks } from "./server/giveTasks";
import { giveKit, readKits, removeKit, saveKit } from "./server/kits";
import { countDue, countLate, lateTasks, listTasks, readOwnTasks, readTasks } from "./server/readTasks";
import { takeTask } from "./server/takeTask";
import { readTaskDays } from "./server/taskDays";
import { taskDetail } from "./server/taskDetail";
import { readTaskPage, readTaskView } from "./server/taskPage";
import { undoTaskChanges } from "./server/undoChanges";

export { passTasks } from "./server/changeTasks";
export { tasksFile } from "./server/files";
export { readFollowThrough } from "./server/followThrough";
export { auditOf as givenAudit, fieldsOf, give } from "./server/giveTasks";
export { outcomesOn } from "./server/outcomes";
export { countDue, type DeskTasks, lateTasks, readOwnTasks } from "./server/readTasks";
export { touchedBy } from "./server/recordChange";
export { partsOf, seesTask } from "./server/standing";
export type { StoredTask } from "./server/storedTask";
export { storiesOf } from "./server/taskDetail";
export { lineSchema, titleSchema } from "./server/taskFields";
export { factsOf, noteOn, taskJson, taskSchema } from "./server/taskJson";
export { readTaskPage } from "./server/taskPage";
export type { TaskRow } from "./server/taskRows";
export { revertTaskChanges } from "./server/undoChanges";

/** Who does what by when: tasks given, changed, taken back and listed. */
export const tasks = capability({
	key: "tasks",
	files: [tasksFile],
	commands: [giveTasks, giveEach, takeBackTasks, changeTask, changeTasks, handBack, takeTask, undoTaskChanges, comeBack, saveKit, removeKit, giveKit],
	lookups: [draftTasks, taskDetail],
	queries: [
		readTasks,
		listTasks,
		readTaskPage,
		readTaskView,
		readOwnTasks,
		countLate,
		countDue,
		lateTasks,
		readFollowThrough,
		readFollowedTasks,
		readTooLate,
		readTaskDays,
		readKits,
	],
	api: taskRoutes,
	rail: { path: "/tasks", label: "Tasks", key: "t", count: { label: "late", value: countLate } },
});
