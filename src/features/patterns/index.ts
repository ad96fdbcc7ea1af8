import { capability } from "@/platform/capability";
import { patternCalls } from "./server/calls";
import { readOutlook } from "./server/readOutlook";
import { readAccuracy, readForetelling, readStageTimes } from "./server/readPatterns";

/** What this organisation's own past says: what foretells, whose commits hold, how long stages take, where the period will end. */
export const patterns = capability({
	key: "patterns",
	queries: [readForetelling, readAccuracy, readStageTimes, readOutlook],
	calls: patternCalls,
	rail: { path: "/patterns", words: "Patterns", key: "l" },
});
