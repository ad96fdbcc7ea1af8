import { formatDay } from "@/core/time/day";
import { readViews } from "@/features/deals";
import { dealsOfView } from "../server/dealsOfView";
import { shownDeals } from "../table/shownDeals";
import { DealsTile, MissingTile } from "../ui/Tiles";
import { tile } from "./tile";

/** A saved view of deals. */
export const viewTile = tile({
	key: "view",
	label: "A saved view",
	about: "A saved view of deals, with its filters and people",
	size: { w: 6, h: 8 },
	settings: async (context) => [{ name: "view", label: "Which view", choices: (await readViews(context)).map(({ id, name }) => ({ value: id, label: name })) }],
	async show(context, viewpoint, settings) {
		const days = { due: viewpoint.due.key, seen: formatDay(viewpoint.seen.day), against: formatDay(viewpoint.against.day) };
		const shown = await dealsOfView(context, settings.view ?? "", days);
		if (!shown) return { title: "A saved view", opens: null, node: <MissingTile words="This view is no longer there. Choose another, or remove the tile." /> };
		return {
			title: shown.name,
			opens: { path: "/deals", more: { ...Object.fromEntries(shown.query), view: settings.view ?? "" } },
			node: <DealsTile {...shownDeals(shown.rows)} currency={shown.currency} />,
		};
	},
});
