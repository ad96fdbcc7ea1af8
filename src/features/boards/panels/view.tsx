import { formatDay } from "@/core/time/day";
import { readDeals, readViews } from "@/features/deals";
import { readFilter } from "@/features/deals/filters";
import { readAsked } from "@/features/deals/table/asked";
import { fitsFlags, fitsWords } from "@/features/deals/table/fits";
import { dealsWithText } from "@/features/search";
import { resolveViewpoint } from "@/platform/viewpoint";
import { shownDeals } from "../table/shownDeals";
import { DealsTile, MissingTile } from "../ui/Tiles";
import { tile } from "./tile";

/** A saved view of deals. */
export const viewTile = tile({
	key: "view",
	words: "A saved view",
	about: "A view of deals that is saved under a name, as it filters and whose deals it is of",
	size: { w: 6, h: 8 },
	settings: async (context) => [{ name: "view", words: "Which view", choices: (await readViews(context)).map(({ id, name }) => ({ value: id, words: name })) }],
	async show(context, viewpoint, settings) {
		const view = (await readViews(context)).find(({ id }) => id === settings.view);
		if (!view)
			return { title: "A saved view", opens: null, node: <MissingTile words="This view is no longer there. Choose another, or take the tile away." /> };
		const query = new URLSearchParams(view.query);
		const asked = readAsked(query);
		const own = resolveViewpoint(context, {
			whose: query.get("whose") ?? undefined,
			due: query.get("due") ?? viewpoint.due.key,
			seen: formatDay(viewpoint.seen.day),
			against: formatDay(viewpoint.against.day),
		});
		const { rows, currency } = readDeals(context, own, asked.status);
		const filters = asked.f.flatMap((text) => readFilter(text) ?? []);
		const found = new Map<string, ReadonlySet<string>>();
		for (const { field, value } of filters) if (field === "text") found.set(value, new Set(await dealsWithText(context, { text: value })));
		const met = rows.filter(fitsWords(asked.text, filters, { seen: formatDay(viewpoint.seen.day), currency, found })).filter(fitsFlags(asked));
		return {
			title: view.name,
			opens: { path: "/deals", more: { ...Object.fromEntries(query), view: view.id } },
			node: <DealsTile {...shownDeals(met)} currency={currency} />,
		};
	},
});
