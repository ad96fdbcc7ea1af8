import { panel } from "@/platform/panel";
import { may } from "@/platform/rights";
import { readFlagSettings } from "../server/flagSettings";
import { FlagsPanel } from "../ui/FlagsPanel";

export const flagsPanel = panel({
	key: "flags",
	label: "Flags",
	group: "rules",
	about: "When each flag turns on, how much it weighs, and from which attention on a deal is lit.",
	right: "readRules",
	show: async (context) => (
		<FlagsPanel
			view={await readFlagSettings(context)}
			mayChange={may(context.actor, "changeRules")}
			currency={context.organisation.company.rules.rates.base}
			zone={context.organisation.company.rules.zone.name}
		/>
	),
});
