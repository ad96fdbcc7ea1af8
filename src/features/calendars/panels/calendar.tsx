import { panel } from "@/platform/panel";
import { may } from "@/platform/rights";
import { readFeed } from "../server/calendars";
import { CalendarPanel } from "../ui/CalendarPanel";

export const calendarPanel = panel({
	key: "calendar",
	label: "My calendar",
	group: "mine",
	about: "Your tasks and meetings in your calendar program; import a calendar file.",
	right: "ownSignIn",
	show: async (context) => (
		<CalendarPanel since={(await readFeed(context)).since} zone={context.organisation.company.rules.zone.name} mayTake={may(context.actor, "assignTasks")} />
	),
});
