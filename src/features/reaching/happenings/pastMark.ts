import { formatDay } from "@/core/time/day";
import { readPeriod } from "@/features/period";
import { resolveViewpoint } from "@/platform/viewpoint";
import { type Found, happening, NEVER } from "./happening";

/** A figure of the period passes the mark that somebody's team has set. */
export const pastMark = happening({
	kind: "past-mark",
	label: "a figure of the period passes its mark",
	usual: NEVER,
	async find({ as, wishers, today, before }) {
		const found: Found<{ figure: string }>[] = [];
		for (const { personId } of wishers("past-mark")) {
			const context = as(personId);
			if (!context) continue;
			const [now, then] = await Promise.all([
				readPeriod(context, resolveViewpoint(context, {})),
				readPeriod(context, resolveViewpoint(context, { seen: formatDay(before) })),
			]);
			const known = new Set(then?.past.map(({ figure }) => figure));
			for (const { figure, label } of now?.past ?? [])
				if (!known.has(figure)) found.push({ personId, key: `${figure} ${formatDay(today)}`, facts: { figure: label }, path: "/period" });
		}
		return found;
	},
	say: ({ figure }) => `Past its mark: ${figure}`,
});
