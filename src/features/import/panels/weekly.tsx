import { formatDay } from "@/core/time/day";
import { panel } from "@/platform/panel";
import { listWeekly } from "../server/weekly/missing";
import { WeeklyPanel } from "../ui/weekly/WeeklyPanel";

export const weeklyPanel = panel({
	key: "weekly",
	label: "Weekly file",
	group: "data",
	about: "Import one file of open deals a week; decide what happened to missing deals.",
	right: "importBundle",
	show: async (context) => <WeeklyPanel list={await listWeekly(context)} today={formatDay(context.now.day)} />,
});
