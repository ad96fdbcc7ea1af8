import { formatDay } from "@/core/time/day";
import { type DealRow, readDeals, readViews } from "@/features/deals";
import { readFilter } from "@/features/deals/filters";
import { readAsked } from "@/features/deals/table/asked";
import { fitsFlags, fitsWords } from "@/features/deals/table/fits";
import { dealsWithText } from "@/features/search";
import type { Context } from "@/platform/context";
import { resolveViewpoint } from "@/platform/viewpoint";

interface Shown {
	readonly name: string;
	/** the query that the view was saved as */
	readonly query: URLSearchParams;
	readonly rows: readonly DealRow[];
	readonly currency: string;
}

/** The deals that a saved view shows to whoever asks, on other days than it was saved on; null where they don't see the view. */
export async function dealsOfView(context: Context, id: string, days: { due?: string; seen?: string; against?: string }): Promise<Shown | null> {
	const view = (await readViews(context)).find((one) => one.id === id);
	if (!view) return null;
	const query = new URLSearchParams(view.query);
	const asked = readAsked(query);
	const { due, ...rest } = days;
	const own = resolveViewpoint(context, { ...rest, whose: query.get("whose") ?? undefined, due: query.get("due") ?? due });
	const { rows, currency, seen } = { ...readDeals(context, own, asked.status), seen: own.seen.day };
	const filters = asked.f.flatMap((text) => readFilter(text) ?? []);
	const found = new Map<string, ReadonlySet<string>>();
	for (const { field, value } of filters) if (field === "text") found.set(value, new Set(await dealsWithText(context, { text: value })));
	const met = rows.filter(fitsWords(asked.text, filters, { seen: formatDay(seen), currency, found })).filter(fitsFlags(asked));
	return { name: view.name, query, rows: met, currency };
}
