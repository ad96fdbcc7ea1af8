import { beamsPicture, groupingAsked, readPeriod } from "@/features/period";
import { GROUPINGS } from "@/features/period/table/groupings";
import { noPeriod, teller } from "./teller";

/** Small beams by rep, team, territory, family or kind of customer, with their figures. */
export const groupsTold = teller({
	key: "groups",
	async tell(context, viewpoint, settings) {
		const by = groupingAsked(settings.by);
		const label = GROUPINGS.find((one) => one.key === by)?.label ?? by;
		const view = await readPeriod(context, viewpoint, by);
		if (!view) return noPeriod(`By ${label}`);
		const { groups, currency } = view;
		return {
			title: `By ${label}`,
			says: [],
			picture: beamsPicture(groups, currency),
			content: {
				currency,
				columns: [
					{ label: `${label.charAt(0).toUpperCase()}${label.slice(1)}`, kind: "text" },
					{ label: `Won ${currency}`, kind: "amount" },
					{ label: `Open ${currency}`, kind: "amount" },
					{ label: `Target ${currency}`, kind: "amount" },
				],
				rows: groups.map(({ name, figures: { won, open, target } }) => [name, won.amount, open.amount, target]),
			},
			path: `/period?by=${by}`,
		};
	},
});
