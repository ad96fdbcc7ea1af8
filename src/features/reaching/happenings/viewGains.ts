import { formatDay } from "@/core/time/day";
import { dealsOfView } from "@/features/boards";
import { dealPath, type Found, happening, NEVER } from "./happening";

/** A saved view shows a deal that it didn't show before. */
export const viewGains = happening({
	kind: "view-gains",
	label: "a saved view gains a deal",
	usual: NEVER,
	of: "view",
	async find({ as, wishers, today, before }) {
		const found: Found<{ view: string; deal: string }>[] = [];
		for (const { personId, of } of wishers("view-gains")) {
			const context = as(personId);
			const now = context && (await dealsOfView(context, of, {}));
			if (!now) continue;
			const known = new Set((await dealsOfView(context, of, { seen: formatDay(before) }))?.rows.map(({ id }) => id));
			for (const { id, name } of now.rows)
				if (!known.has(id))
					found.push({ personId, of, key: `${of} ${id} ${formatDay(today)}`, dealId: id, facts: { view: now.name, deal: name }, path: dealPath(id) });
		}
		return found;
	},
	say: ({ view, deal }) => `${view} shows ${deal}`,
});
