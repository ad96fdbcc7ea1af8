import { capability } from "@/platform/capability";
import { changesRoutes } from "./server/apiRoutes";
import { readBridge } from "./server/bridgeJson";
import { changesFile } from "./server/files";
import { keepNights } from "./server/keepNights";
import { keepMark, readMarks, removeMark } from "./server/marks";
import { readChanges } from "./server/readChanges";
import { readDifferences } from "./server/readDifferences";
import { readFlow } from "./server/readFlow";
import { readNotes } from "./server/readNotes";
import { packedRiver, readRiver } from "./server/readRiver";
import { readTrend } from "./server/readTrend";

export { changesFile } from "./server/files";
export { bridgePicture, trendPicture } from "./server/pictures";
export { readChanges } from "./server/readChanges";
export { readFlow } from "./server/readFlow";
export { packedRiver } from "./server/readRiver";
export { readTrend } from "./server/readTrend";
export { SLICES } from "./server/slices";

/** What moved between two moments: the bridge, deal by deal, the trend, the flow, the river; and the marks to compare with. */
export const changes = capability({
	key: "changes",
	files: [changesFile],
	commands: [keepMark, removeMark],
	queries: [readChanges, readDifferences, readFlow, readNotes, readTrend, readRiver, packedRiver, readBridge, readMarks],
	api: changesRoutes,
	rail: { path: "/changes", label: "Changes", key: "c" },
	nightly: [{ name: "keep-nights", run: keepNights }],
});
