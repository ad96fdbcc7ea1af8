import { capability } from "@/platform/capability";
import { patternRoutes } from "./server/apiRoutes";
import { chancesHere } from "./server/chances";
import { patternsFile } from "./server/file";
import { PATTERN_KINDS } from "./server/kinds";
import { learn } from "./server/learn";
import { readPastWeights, takeWeights, tryWeights, undoWeights } from "./server/pastWeights";
import { comparablesOfDeal, glanceOutlook, outlookHere, outlookOnTheWay, readOutlook } from "./server/readOutlook";
import { readPattern, readPatternNow } from "./server/readPattern";
import { readAccuracy, readForetelling, readPersonHabits, readStageTimes, readTaskHelp, trackRecords } from "./server/readPatterns";

export type { FindingOrProgress } from "./server/find";
export type { Habit } from "./server/habits";
export { outlookFile } from "./server/outlookFile";
export { outlookPicture } from "./server/outlookPicture";
export { glanceOutlook, type OutlookView, outlookOnTheWay, readOutlook } from "./server/readOutlook";
export { readPersonHabits } from "./server/readPatterns";

// Of a past day only what changed is looked at anew.

/** What this organisation's own past says: what foretells, whose commits hold, how long stages take, where the period will end. */
export const patterns = capability({
	key: "patterns",
	queries: [
		readPattern,
		readPatternNow,
		readForetelling,
		readAccuracy,
		readStageTimes,
		readTaskHelp,
		readPersonHabits,
		readOutlook,
		glanceOutlook,
		outlookOnTheWay,
	],
	commands: [takeWeights, undoWeights],
	lookups: [outlookHere, chancesHere, comparablesOfDeal, trackRecords, readPastWeights, tryWeights],
	files: [patternsFile],
	api: patternRoutes,
	often: [{ name: "learn", afterWrites: false, run: learn }],
	rail: {
		path: "/patterns",
		label: "Patterns",
		key: "l",
		places: PATTERN_KINDS.map(({ key, label }) => ({ path: `/patterns?show=${key}`, label: `Patterns: ${label.toLowerCase()}` })),
	},
});
