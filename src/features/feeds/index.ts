import { capability } from "@/platform/capability";
import { feedRoutes } from "./server/apiRoutes";
import { missFiles } from "./server/due";
import { endFeed, replaceFeedAddress, saveFeed, sendToFeed } from "./server/feeds";
import { fetchFeeds } from "./server/fetchFeeds";
import { readFeedRuns, readFeeds, readWaiting } from "./server/readFeeds";
import { endStale } from "./server/stale";
import { watchFolders } from "./server/watchFolders";

/** Ways by which data comes by itself: by mail, from a watched folder, from an address, over the API. */
export const feeding = capability({
	key: "feeds",
	commands: [saveFeed, replaceFeedAddress, endFeed, sendToFeed],
	queries: [readFeeds, readFeedRuns, readWaiting],
	api: feedRoutes,
	often: [
		{ name: "watch-folders", afterWrites: false, run: () => watchFolders() },
		{ name: "fetch-feeds", afterWrites: false, run: () => fetchFeeds() },
		{ name: "miss-files", afterWrites: false, run: missFiles },
		{ name: "end-stale-files", afterWrites: false, run: endStale },
	],
});
