import { panel } from "@/platform/panel";
import { may } from "@/platform/rights";
import { readHabits } from "../server/habitSettings";
import { readStages } from "../server/stageSettings";
import { StagesPanel } from "../ui/StagesPanel";

export const stagesPanel = panel({
	key: "stages",
	label: "Stages and habits",
	group: "rules",
	about: "Stages with their chances and usual days; kinds of activity, reasons of losses, bands of last contact.",
	right: "readRules",
	show: async (context) => (
		<StagesPanel
			stages={await readStages(context)}
			habits={readHabits(context)}
			currency={context.organisation.company.rules.rates.base}
			mayChange={may(context.actor, "changeRules")}
		/>
	),
});
