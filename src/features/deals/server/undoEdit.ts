import { and, desc, eq, lt, sql } from "drizzle-orm";
import { connection } from "@/data/db";
import { audit, deals, dealVersions } from "@/data/schema";
import { closeVersions } from "@/data/store/closeVersions";
import { touch } from "@/data/store/touch";
import { type Context, record } from "@/platform/context";
import { Fault } from "@/platform/fault";
import { reachDeal } from "@/platform/reachDeal";
import { demand } from "@/platform/rights";
import { append, currentVersions, type Edited, type Target, versionInstant } from "./editDeals";
import { differencesOf, stateOnly } from "./planEdit";

/**
 * Undoes edits, all or none: each deal gets a version like the one before. The past stays as it was written;
 * of what is undone on the same day no trace is left in trail and visits. A 409 where somebody changed it since.
 */
export async function undoEdit(context: Context, targets: readonly Target[]): Promise<Edited[]> {
	demand(context.actor, "editDeals");
	const ids = targets.map((target) => target.id);
	const names = new Map(targets.map(({ id }) => [id, reachDeal(context, id).name.name]));
	return connection().db.transaction(async (tx) => {
		const current = await currentVersions(tx, ids, true);
		const done: Edited[] = [];
		for (const { id, versionId } of targets) {
			const version = current.get(id);
			const name = names.get(id) ?? id;
			if (version?.id !== versionId) throw new Fault(409, "Changed since", `${name} was changed again since, so it stays as it is.`);
			if (version.byId !== context.actor.person.id) throw new Fault(403, "Not allowed", "Only whoever made a change can undo it.");
			const [before] = await tx
				.select()
				.from(dealVersions)
				.where(and(eq(dealVersions.dealId, id), lt(dealVersions.validFrom, version.validFrom)))
				.orderBy(desc(dealVersions.validFrom))
				.limit(1);
			if (!before) throw new Fault(409, "Nothing before", `${name} has no state before this one.`);
			const [entry] = await tx
				.select({ detail: audit.detail })
				.from(audit)
				.where(and(eq(audit.subject, id), eq(audit.action, "deal changed"), sql`${audit.detail} ->> 'version' = ${String(versionId)}`));
			const outcome = entry?.detail.outcomeBefore as { outcomeReason: string | null; competitor: string | null } | undefined;
			if (outcome) await tx.update(deals).set(outcome).where(eq(deals.id, id));
			const made = await append(tx, context, version, stateOnly(before), versionInstant(context, version), "undone");
			await record(tx, context, "deal change undone", id, { version: made, was: versionId });
			done.push({ id, name, versionId: made, differences: differencesOf(context, version, before) });
		}
		await closeVersions(tx, ids);
		await touch(tx, ids);
		return done;
	});
}
