import { panel } from "@/platform/panel";
import { may } from "@/platform/rights";
import { readKits } from "../server/kits";
import { KitsPanel } from "../ui/KitsPanel";

export const kitsPanel = panel({
	key: "kits",
	label: "Task kits",
	group: "rules",
	about: "Named sets of tasks that are given in one step.",
	right: "readTasks",
	show: async (context) => (
		<KitsPanel kits={await readKits(context)} kinds={context.organisation.activityKinds} mayChange={may(context.actor, "changeRules")} />
	),
});
