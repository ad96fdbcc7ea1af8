import { panel } from "@/platform/panel";
import { reachOf } from "@/platform/reach";
import { readThresholds } from "../server/thresholds";
import { MarksPanel } from "../ui/MarksPanel";

export const marksPanel = panel({
	key: "marks",
	label: "Marks of the period",
	group: "rules",
	about: "Limits for the figures of Period; past its mark a figure is listed first.",
	right: "setTargets",
	show: async (context) => {
		const everyone = reachOf(context.organisation, context.actor) === null;
		const own = context.actor.person.team;
		const teams = everyone ? ["", ...context.organisation.teams.keys()] : own ? [own] : [];
		return (
			<MarksPanel views={await Promise.all(teams.map((team) => readThresholds(context, team)))} currency={context.organisation.company.rules.rates.base} />
		);
	},
});
