import { z } from "zod";
import { stateAt, stateOf } from "@/core/deal/fields";
import type { DealState } from "@/core/deal/state";
import { blockOf, endRow, firstRow } from "@/core/history/columns";
import { connection, type Tx } from "@/data/db";
import { closeVersions } from "@/data/store/closeVersions";
import { command, lookup } from "@/platform/command";
import type { Context } from "@/platform/context";
import { Fault } from "@/platform/fault";
import { idSchema } from "@/platform/input";
import { dealName, personName } from "@/platform/names";
import { reachDeal } from "@/platform/reachDeal";
import type { AuditEntry } from "@/platform/write";
import { demandNotAhead } from "./datedAhead";
import { writeOutcome } from "./outcome";
import { type Change, changeSchema, type Difference, differencesOf, type Plan, planEdit } from "./planEdit";
import { appendVersion, currentVersions, type Version, versionInstant } from "./versions";

/** Deals to be edited, each with the version that was seen. */
export const targetsSchema = z
	.array(z.object({ id: idSchema, versionId: z.number().int() }))
	.min(1, "Choose a deal first.")
	.max(500, "At most 500 deals at once.")
	.refine((targets) => new Set(targets.map((target) => target.id)).size === targets.length, "A deal appears twice.");
export type Target = z.infer<typeof targetsSchema>[number];

export interface Edited {
	readonly id: string;
	readonly name: string;
	readonly versionId: number;
	readonly differences: readonly Difference[];
}

export interface Preview extends Omit<Edited, "versionId"> {
	readonly needs: Readonly<Record<string, string>>;
	/** why this deal can't be changed so */
	readonly fault: string | null;
}

const editSchema = z.object({ targets: targetsSchema, change: changeSchema });

/** What an edit would change in each deal, and what must be given first. Nothing is written. */
export const previewEdit = lookup({
	name: "deals.previewEdit",
	right: "editDeals",
	input: editSchema,
	async run({ context, input: { targets, change } }): Promise<Preview[]> {
		const ids = targets.map((target) => target.id);
		const current = await currentVersions(connection().db, ids);
		return targets.map((target): Preview => {
			const { id, name } = reached(context, target);
			try {
				const version = matching(context, current.get(id), target, name);
				const { differences, needs } = planEdit(context, stateOf(version), change);
				return { id, name, differences, needs, fault: null };
			} catch (error) {
				if (!(error instanceof Fault)) throw error;
				return { id, name, differences: [], needs: {}, fault: error.detail };
			}
		});
	},
});

/**
 * Writes a change to some deals, all or none: the current version ends and the next begins. Deals that already are so
 * are left alone.
 *
 * @throws Fault 412 says who changed a deal since it was seen, and what; 422 what must be given yet
 */
export const editDeals = command({
	name: "deals.edit",
	right: "editDeals",
	input: editSchema,
	async run({ context, input: { targets, change }, tx }) {
		const { done, audit } = await applyEdit(tx, context, targets, change);
		return { result: done, touched: targets.map(({ id }) => id), audit };
	},
});

/** Writes an edit within a write of somebody's who may: the same as `editDeals`, and all that it throws. */
export async function applyEdit(tx: Tx, context: Context, targets: readonly Target[], change: Change): Promise<{ done: Edited[]; audit: AuditEntry[] }> {
	const named = targets.map((target) => reached(context, target));
	const ids = targets.map((target) => target.id);
	const current = await currentVersions(tx, ids, true);
	const done: Edited[] = [];
	const audit: AuditEntry[] = [];
	for (const [i, target] of targets.entries()) {
		const { name } = named[i] as (typeof named)[number];
		const version = matching(context, current.get(target.id), target, name);
		const plan = planEdit(context, stateOf(version), change);
		const missing = Object.values(plan.needs);
		if (missing.length) throw new Fault(422, "Missing information", `${name}: ${missing.join(" ")}`, { needs: plan.needs, deal: target.id });
		if (!plan.differences.length) {
			done.push({ id: target.id, name, versionId: version.id, differences: [] });
			continue;
		}
		const written = await write(tx, context, version, plan, change);
		done.push({ id: target.id, name, versionId: written.versionId, differences: plan.differences });
		audit.push(written.audit);
	}
	await closeVersions(tx, ids);
	return { done, audit };
}

const reached = (context: Context, { id }: Target) => ({ id, name: dealName(context.organisation, reachDeal(context, id).index) });

async function write(tx: Tx, context: Context, version: Version, plan: Plan, change: Change): Promise<{ versionId: number; audit: AuditEntry }> {
	const { attributes } = reachDeal(context, version.dealId);
	const outcome = {
		...(change.outcomeReason === undefined ? {} : { outcomeReason: change.outcomeReason }),
		...(change.competitor === undefined ? {} : { competitor: change.competitor || null }),
	};
	const closes = Object.keys(outcome).length > 0;
	if (closes) await writeOutcome(tx, context, version.dealId, outcome);
	const versionId = await appendVersion(tx, context, version, plan.state, versionInstant(context, version, change.closedOn), change.reason || null);
	const detail = {
		version: versionId,
		was: version.id,
		changed: plan.differences,
		reason: change.reason ?? null,
		...(closes ? { outcomeBefore: { outcomeReason: attributes.outcomeReason, competitor: attributes.competitor } } : {}),
	};
	return { versionId, audit: { action: "deal changed", subject: version.dealId, detail } };
}

/** The version, if it is the one that was seen; otherwise a 412 that says who changed what. */
function matching(context: Context, version: Version | undefined, target: Target, name: string): Version {
	if (!version) throw new Fault(409, "Removed", `${name} has no version to change.`);
	demandNotAhead(context, version.validFrom, name);
	if (version.id === target.versionId) return version;
	const seen = seenState(context, target);
	const who = personName(context.organisation, version.byId) ?? "An import";
	const changes = seen ? differencesOf(context, seen, stateOf(version)) : [];
	const what = changes.map((c) => `${c.field.toLowerCase()} ${c.before} → ${c.after}`).join("; ") || "something";
	throw new Fault(412, "Changed by someone else", `${who} changed ${name} since: ${what}. Your changes weren’t saved; check the deal and try again.`, {
		deal: target.id,
		versionId: version.id,
		changedBy: who,
		changes,
	});
}

/** The state of a version of a deal as it is kept in memory, or null when it isn't one of this deal's. */
function seenState({ organisation }: Context, { id, versionId }: Target): DealState | null {
	const { history } = organisation.company;
	const deal = organisation.dealIndex.get(id) ?? -1;
	const block = blockOf(history, deal);
	const from = firstRow(block, deal);
	const row = block.id.subarray(from, endRow(block, deal)).indexOf(versionId);
	return row < 0 ? null : stateAt(organisation.company, block, from + row, (person) => organisation.people[person]?.id ?? null);
}
