import { and, desc, eq, lt, sql } from "drizzle-orm";
import { z } from "zod";
import { stateOf, UNDONE } from "@/core/deal/fields";
import type { Tx } from "@/data/db";
import { audit, dealVersions } from "@/data/schema";
import { closeVersions } from "@/data/store/closeVersions";
import { command } from "@/platform/command";
import type { Context } from "@/platform/context";
import { Fault } from "@/platform/fault";
import { dealName } from "@/platform/names";
import { reachDeal } from "@/platform/reachDeal";
import type { AuditEntry } from "@/platform/write";
import { type Edited, type Target, targetsSchema } from "./editDeals";
import { writeOutcome } from "./outcome";
import { differencesOf } from "./planEdit";
import { appendVersion, currentVersions, versionInstant } from "./versions";

/**
 * Undoes edits, all or none: each deal gets a version like the one before. The past stays as it was written;
 * of what is undone on the same day no trace is left in trail and visits.
 *
 * @throws Fault 409 where somebody changed a deal since; 403 for somebody else's edit
 */
export const undoEdit = command({
	name: "deals.undoEdit",
	right: "editDeals",
	input: z.object({ targets: targetsSchema }),
	async run({ context, input: { targets }, tx }) {
		const { done, audit: entries } = await revertEdits(tx, context, targets);
		return { result: done, touched: targets.map(({ id }) => id), audit: entries };
	},
});

/** Takes edits back within a write of whoever made them: the same as `undoEdit`, and all that it throws. */
export async function revertEdits(tx: Tx, context: Context, targets: readonly Target[]): Promise<{ done: Edited[]; audit: AuditEntry[] }> {
	const ids = targets.map((target) => target.id);
	const names = new Map(ids.map((id) => [id, dealName(context.organisation, reachDeal(context, id).index)]));
	const current = await currentVersions(tx, ids, true);
	const done: Edited[] = [];
	const entries: AuditEntry[] = [];
	for (const { id, versionId } of targets) {
		const version = current.get(id);
		const name = names.get(id) ?? id;
		if (version?.id !== versionId) throw new Fault(409, "Changed since", `${name} was changed again since, so it can’t be undone.`);
		if (version.byId !== context.actor.person.id) throw new Fault(403, "Not allowed", "Only the person who made a change can undo it.");
		const [before] = await tx
			.select()
			.from(dealVersions)
			.where(and(eq(dealVersions.dealId, id), lt(dealVersions.validFrom, version.validFrom)))
			.orderBy(desc(dealVersions.validFrom))
			.limit(1);
		if (!before) throw new Fault(409, "Nothing to restore", `${name} has no earlier version.`);
		const [entry] = await tx
			.select({ detail: audit.detail })
			.from(audit)
			.where(and(eq(audit.subject, id), eq(audit.action, "deal changed"), sql`${audit.detail} ->> 'version' = ${String(versionId)}`));
		const outcome = entry?.detail.outcomeBefore as { outcomeReason: string | null; competitor: string | null } | undefined;
		if (outcome) await writeOutcome(tx, context, id, outcome);
		const made = await appendVersion(tx, context, version, stateOf(before), versionInstant(context, version), UNDONE);
		const differences = differencesOf(context, stateOf(version), stateOf(before));
		entries.push({ action: "deal change undone", subject: id, detail: { version: made, was: versionId, changed: differences } });
		done.push({ id, name, versionId: made, differences });
	}
	await closeVersions(tx, ids);
	return { done, audit: entries };
}
