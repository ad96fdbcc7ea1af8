import { and, gt, isNotNull, lte } from "drizzle-orm";
import { UNDONE } from "@/core/deal/fields";
import { connection } from "@/data/db";
import { outcomeOn } from "@/data/organisation/former";
import { isOneOf } from "@/data/queries/isOneOf";
import { dealVersions } from "@/data/schema";
import { query } from "@/platform/command";
import type { Context } from "@/platform/context";
import type { Viewpoint } from "@/platform/viewpoint";
import type { ChangesView } from "./changesView";

/** Why the deals of a comparison moved, as it was said then: by deal, the last note of the time between; where it was closed, the reason of that. */
export const readNotes = query(
	"changes.notes",
	"readChanges",
	async (context: Context, viewpoint: Viewpoint, view: ChangesView): Promise<Record<string, string>> => {
		const { organisation } = context;
		const { zone } = organisation.company.rules;
		const moved = view.steps
			.filter((step) => step.kind !== "opening" && step.kind !== "closing")
			.flatMap((step) => step.deals.map((deal) => ({ kind: step.kind, id: deal.id })));
		const ids = [...new Set(moved.map((deal) => deal.id))];
		if (!ids.length) return {};
		const rows = await connection()
			.db.select({ id: dealVersions.dealId, reason: dealVersions.reason })
			.from(dealVersions)
			.where(
				and(
					isOneOf(dealVersions.dealId, ids),
					isNotNull(dealVersions.reason),
					gt(dealVersions.validFrom, new Date(zone.instantAt(viewpoint.against.day + 1, 0) - 1)),
					lte(dealVersions.validFrom, new Date(zone.instantAt(viewpoint.seen.day + 1, 0) - 1)),
				),
			)
			.orderBy(dealVersions.validFrom);
		const notes: Record<string, string> = {};
		// What was taken back isn't why a deal moved.
		for (const { id, reason } of rows) {
			if (reason === UNDONE) delete notes[id];
			else if (reason) notes[id] = reason;
		}
		// Why it was closed says more than why it was moved before.
		for (const { id, kind } of moved) {
			const deal = organisation.deals[organisation.dealIndex.get(id) ?? -1];
			const closed = deal && outcomeOn(deal, viewpoint.seen.day).outcomeReason;
			if ((kind === "won" || kind === "lost") && closed) notes[id] = closed;
		}
		return notes;
	},
);
