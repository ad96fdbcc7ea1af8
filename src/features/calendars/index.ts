import { capability } from "@/platform/capability";
import { previewCalendar, readFeed, removeFeed, renewFeed, takeCalendar } from "./server/calendars";
import { activityCalendar, taskCalendar } from "./server/feed";

/** Tasks and meetings in everybody's own calendar, and what comes from there. */
export const calendars = capability({
	key: "calendars",
	commands: [renewFeed, removeFeed, takeCalendar],
	lookups: [previewCalendar],
	queries: [readFeed, taskCalendar, activityCalendar],
});
