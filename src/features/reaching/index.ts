import { capability } from "@/platform/capability";
import { reachingRoutes } from "./server/apiRoutes";
import { dropMail, readMailLog, sendAgain } from "./server/mailLog";
import { lookAndWrite, sendMails } from "./server/often";
import { readNews, readNewsUpTo, readWishes, removeWish, saveDigestTimes, saveWish } from "./server/wishes";

export { written } from "./server/letters";
export { post } from "./server/post";

/** What reaches people: happenings they wish to hear of, on screen and by mail, and their digests. */
export const reaching = capability({
	key: "reaching",
	commands: [saveWish, removeWish, saveDigestTimes, readNewsUpTo, sendAgain, dropMail],
	queries: [readWishes, readNews, readMailLog],
	api: reachingRoutes,
	often: [
		{ name: "look-for-news", afterWrites: true, run: lookAndWrite },
		{ name: "send-mails", afterWrites: true, run: sendMails },
	],
});
