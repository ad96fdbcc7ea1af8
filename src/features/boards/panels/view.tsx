import { formatDay } from "@/core/time/day";
import { readDeals, readViews } from "@/features/deals";
import { type Filter, filterField, readFilter } from "@/features/deals/filters";
import { resolveViewpoint } from "@/platform/viewpoint";
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
		const part = (name: string) => query.get(name) ?? undefined;
		const own = resolveViewpoint(context, {
			whose: part("whose"),
			due: part("due") ?? viewpoint.due.key,
			seen: formatDay(viewpoint.seen.day),
			against: formatDay(viewpoint.against.day),
		});
		const { rows, currency } = readDeals(context, own);
		const filters = (query.get("f") ?? "").split(";").flatMap((text) => readFilter(text) ?? []);
		const flags = (query.get("flags") ?? "").split(",").filter(Boolean);
		const setting = { seen: formatDay(viewpoint.seen.day), currency, found: new Map<string, ReadonlySet<string>>() };
		const meets = (row: (typeof rows)[number], filter: Filter) => filterField(filter.field)?.meets(row, filter, setting) ?? true;
		const met = rows.filter(
			(row) => filters.every((filter) => meets(row, filter)) && (!flags.length || flags.some((code) => row.flags.some((flag) => flag.code === code))),
		);
		return {
			title: view.name,
			opens: { path: "/deals", more: { ...Object.fromEntries(query), view: view.id } },
			node: <DealsTile rows={met.slice(0, 40)} count={met.length} amount={met.reduce((sum, row) => sum + row.amount, 0)} currency={currency} />,
		};
	},
});
