import { panel } from "@/platform/panel";
import { howItRuns } from "../server/howItRuns";
import { RunningPanel } from "../ui/RunningPanel";

export const runningPanel = panel({
	key: "running",
	label: "Health",
	group: "company",
	about: "What waits, what failed, how large the program and its database are.",
	right: "readRunning",
	show: async (context) => <RunningPanel view={await howItRuns(context)} zone={context.organisation.company.rules.zone.name} />,
});
