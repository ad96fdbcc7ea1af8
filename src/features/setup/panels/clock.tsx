import { config } from "@/config/config";
import { formatDay } from "@/core/time/day";
import { panel } from "@/platform/panel";
import { ClockPanel } from "../ui/ClockPanel";

export const clockPanel = panel({
	key: "clock",
	label: "Today",
	group: "company",
	about: "Whether today follows the calendar or is fixed at a day.",
	right: "changeClock",
	show: ({ now }) => <ClockPanel view={{ today: formatDay(now.day), held: now.held, byEnvironment: Boolean(config().PORCH_LAMP_TODAY) }} />,
});
