import { capability } from "@/platform/capability";
import { periodRoutes } from "./server/apiRoutes";
import { periodFile } from "./server/file";
import { countToDecide } from "./server/lastDays";
import { listTries } from "./server/listTries";
import { readMadeOf } from "./server/madeOf";
import { readPeriodOfApi } from "./server/periodJson";
import { previewRules } from "./server/previewRules";
import { readPeriod } from "./server/readPeriod";
import { carryTargets, readTargets, saveTargets, undoTargets } from "./server/targets";
import { readThresholds, saveThresholds, undoThresholds } from "./server/thresholds";
import { changeTry, removeTry, saveTry } from "./server/tries";
import { readTryGround } from "./server/tryGround";
import { readTryLater } from "./server/tryLater";

export { countedOn } from "./server/counted";
export { periodFile } from "./server/file";
export { groupsBy, teamsOf } from "./server/groups";
export { beamsPicture, pacePicture } from "./server/pictures";
export { groupingAsked, type PeriodView, readPeriod } from "./server/readPeriod";
export { demandTargets, writeTargets } from "./server/targetCells";
export { wonAndTarget } from "./server/wonAndTarget";
export type { GroupingKey } from "./table/groupings";

/** Where a period stands: won, open, missing; its pace; by whom; what is due and what decides it. */
export const period = capability({
	key: "period",
	files: [periodFile],
	commands: [saveTry, changeTry, removeTry, saveTargets, carryTargets, undoTargets, saveThresholds, undoThresholds],
	queries: [readPeriod, readMadeOf, readPeriodOfApi, readThresholds, readTargets, listTries, readTryGround, readTryLater],
	lookups: [previewRules],
	api: periodRoutes,
	rail: { path: "/period", label: "Period", key: "p", count: { label: "to decide", value: countToDecide } },
});
