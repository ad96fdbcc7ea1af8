import { groupingAsked, readPeriod } from "@/features/period";
import { GROUPINGS } from "@/features/period/table/groupings";
import { BeamsTile, NoPeriodTile } from "../ui/Tiles";
import { tile } from "./tile";

/** Small beams by rep, team, territory, family or kind of customer. */
export const groupsTile = tile({
	key: "groups",
	label: "Beams",
	about: "Won, commit, best case and pipeline against the target, by rep, team and more",
	size: { w: 5, h: 8 },
	settings: () => [{ name: "by", label: "By", choices: GROUPINGS.map(({ key, label }) => ({ value: key, label })) }],
	async show(context, viewpoint, settings) {
		const by = groupingAsked(settings.by);
		const view = await readPeriod(context, viewpoint, by);
		const title = `By ${GROUPINGS.find(({ key }) => key === by)?.label}`;
		if (!view) return { title, opens: null, node: <NoPeriodTile /> };
		return { title, opens: { path: "/period", more: { by } }, node: <BeamsTile groups={view.groups} currency={view.currency} /> };
	},
});
