import { and, desc, eq, inArray, isNull } from "drizzle-orm";
import { CATEGORIES, nextStepOf } from "@/core/history/columns";
import { isoOrNull, parseDay } from "@/core/time/day";
import { connection, type Tx } from "@/data/db";
import { deals, dealVersions } from "@/data/schema";
import { closeVersions } from "@/data/store/closeVersions";
import { touch } from "@/data/store/touch";
import { type Context, record } from "@/platform/context";
import { Fault } from "@/platform/fault";
import { reachDeal } from "@/platform/reachDeal";
import { demand } from "@/platform/rights";
import { type Change, type Difference, differencesOf, type Plan, planEdit, type State, type Version } from "./planEdit";

/** A deal to be edited, and the version that was seen. */
export interface Target {
	readonly id: string;
	readonly versionId: number;
}

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

/** What an edit would change in each deal, and what must be given first. Nothing is written. */
export async function previewEdit(context: Context, targets: readonly Target[], change: Change): Promise<Preview[]> {
	demand(context.actor, "editDeals");
	const current = await currentVersions(
		connection().db,
		targets.map((target) => target.id),
	);
	return targets.map((target): Preview => {
		const { name } = reachDeal(context, target.id);
		try {
			const version = matching(context, current.get(target.id), target, name.name);
			const { differences, needs } = planEdit(context, version, change);
			return { id: target.id, name: name.name, differences, needs, fault: null };
		} catch (error) {
			if (!(error instanceof Fault)) throw error;
			return { id: target.id, name: name.name, differences: [], needs: {}, fault: error.detail };
		}
	});
}

/**
 * Writes a change to some deals, all or none: the current version ends and the next begins. A 412 says who
 * changed a deal since it was seen, and what; a 422 what must be given yet. Deals that already are so are left alone.
 */
export async function editDeals(context: Context, targets: readonly Target[], change: Change): Promise<Edited[]> {
	demand(context.actor, "editDeals");
	for (const target of targets) reachDeal(context, target.id);
	const ids = targets.map((target) => target.id);
	return connection().db.transaction(async (tx) => {
		const current = await currentVersions(tx, ids, true);
		const done: Edited[] = [];
		for (const target of targets) {
			const { name } = reachDeal(context, target.id);
			const version = matching(context, current.get(target.id), target, name.name);
			const plan = planEdit(context, version, change);
			const missing = Object.entries(plan.needs);
			if (missing.length) {
				throw new Fault(422, "Something is missing", `${name.name}: ${missing.map(([, question]) => question).join(" ")}`, {
					needs: plan.needs,
					deal: target.id,
				});
			}
			if (!plan.differences.length) done.push({ id: target.id, name: name.name, versionId: version.id, differences: [] });
			else done.push(await write(tx, context, target.id, version, plan, change));
		}
		await closeVersions(tx, ids);
		await touch(tx, ids);
		return done;
	});
}

async function write(tx: Tx, context: Context, id: string, version: Version, plan: Plan, change: Change): Promise<Edited> {
	const { name } = reachDeal(context, id);
	const outcome = {
		...(change.outcomeReason === undefined ? {} : { outcomeReason: change.outcomeReason }),
		...(change.competitor === undefined ? {} : { competitor: change.competitor || null }),
	};
	if (Object.keys(outcome).length) await tx.update(deals).set(outcome).where(eq(deals.id, id));
	const made = await append(tx, context, version, plan.state, versionInstant(context, version, change.closedOn), change.reason || null);
	await record(tx, context, "deal changed", id, {
		version: made,
		was: version.id,
		changed: plan.differences,
		reason: change.reason ?? null,
		...(Object.keys(outcome).length ? { outcomeBefore: { outcomeReason: name.outcomeReason, competitor: name.competitor } } : {}),
	});
	return { id, name: name.name, versionId: made, differences: plan.differences };
}

/** Adds the next version of a deal; `closeVersions` has to follow. */
export async function append(tx: Tx, context: Context, before: Version, state: State, at: Date, reason: string | null): Promise<number> {
	const [row] = await tx
		.insert(dealVersions)
		.values({ ...state, dealId: before.dealId, validFrom: at, validTo: at, byId: context.actor.person.id, reason })
		.returning({ id: dealVersions.id });
	return row?.id as number;
}

/**
 * Now, or at noon of the day on which the deal was closed; in either case after the version before. What is
 * registered late is dated to its day, so that the figures of that day come right.
 */
export function versionInstant({ organisation, now }: Context, before: Version, closedOn?: string): Date {
	const day = closedOn ? parseDay(closedOn) : null;
	const wanted = day === null || day >= now.day ? now.instant : organisation.company.rules.zone.instantAt(day, 12 * 3_600_000);
	return new Date(Math.max(wanted, before.validFrom.getTime() + 1));
}

export async function currentVersions(db: Pick<Tx, "select">, ids: readonly string[], lock = false): Promise<Map<string, Version>> {
	if (!ids.length) return new Map();
	const query = db
		.select()
		.from(dealVersions)
		.where(and(inArray(dealVersions.dealId, [...ids]), isNull(dealVersions.validTo)))
		.orderBy(desc(dealVersions.dealId));
	const rows = await (lock ? query.for("update") : query);
	return new Map(rows.map((row) => [row.dealId, row]));
}

/** The version, if it is the one that was seen; otherwise a 412 that says who changed what. */
function matching(context: Context, version: Version | undefined, target: Target, name: string): Version {
	if (!version) throw new Fault(409, "Removed", `${name} has no version to change.`);
	if (version.id === target.versionId) return version;
	const { organisation } = context;
	const seen = stateOf(context, target);
	const who = organisation.people[organisation.personIndex.get(version.byId ?? "") ?? -1]?.name ?? "An import";
	const changes = seen ? differencesOf(context, seen, version) : [];
	const what = changes.map((c) => `${c.field.toLowerCase()} ${c.before} → ${c.after}`).join("; ") || "something";
	throw new Fault(412, "Changed meanwhile", `${who} changed ${name} meanwhile: ${what}. Nothing of yours was written; look, and choose again.`, {
		deal: target.id,
		versionId: version.id,
		changedBy: who,
		changes,
	});
}

/** The state of a version of a deal as it is kept in memory, or null when it isn't one of this deal's. */
function stateOf({ organisation }: Context, target: Target): State | null {
	const { history, rules } = organisation.company;
	const deal = organisation.dealIndex.get(target.id) ?? -1;
	const from = history.offsets[deal] ?? 0;
	const row = history.id.subarray(from, history.offsets[deal + 1]).indexOf(target.versionId);
	if (row < 0) return null;
	const at = from + row;
	const amount = history.amount[at] as number;
	return {
		stage: rules.stages[history.stage[at] as number]?.name ?? "",
		amount: Number.isNaN(amount) ? null : amount,
		currency: rules.currencies[history.currency[at] as number] ?? null,
		closeDate: isoOrNull(history.close[at] as number),
		ownerId: organisation.people[history.owner[at] as number]?.id ?? null,
		category: CATEGORIES[history.category[at] as number] ?? null,
		nextStep: nextStepOf(history, at) || null,
		nextStepDate: isoOrNull(history.nextStepDay[at] as number),
	};
}
