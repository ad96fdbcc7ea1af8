import { panel } from "@/platform/panel";
import { readTargets } from "../server/targets";
import { TargetsPanel } from "../ui/TargetsPanel";

export const targetsPanel = panel({
	key: "targets",
	label: "Targets",
	group: "people",
	about: "Each person’s target by quarter.",
	right: "setTargets",
	show: (context) => <TargetsPanel view={readTargets(context)} />,
});
