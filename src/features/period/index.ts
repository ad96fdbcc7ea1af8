import { capability } from "@/platform/capability";
import { periodRoutes } from "./server/apiRoutes";
import { periodFile } from "./server/file";
import { readMadeOf } from "./server/madeOf";
import { readPeriodOfApi } from "./server/periodJson";
import { previewRules } from "./server/previewRules";
import { readPeriod } from "./server/readPeriod";
import { carryTargets, readTargets, saveTargets, undoTargets } from "./server/targets";
import { readThresholds, saveThresholds, undoThresholds } from "./server/thresholds";
import { changeTry, listTries, readTryGround, readTryLater, removeTry, saveTry } from "./server/tries";

export { groupingAsked, type PeriodView, readPeriod } from "./server/readPeriod";
export { demandTargets, writeTargets } from "./server/targets";
export { wonAndTarget } from "./server/wonAndTarget";

/** Where a period stands: won, open, missing; its pace; by whom; what is due and what decides it. */
export const period = capability({
	key: "period",
	files: [periodFile],
	commands: [saveTry, changeTry, removeTry, saveTargets, carryTargets, undoTargets, saveThresholds, undoThresholds],
	queries: [readPeriod, readMadeOf, readPeriodOfApi, readThresholds, readTargets, listTries, readTryGround, readTryLater],
	lookups: [previewRules],
	api: periodRoutes,
	rail: { path: "/period", words: "Period", key: "p" },
});
