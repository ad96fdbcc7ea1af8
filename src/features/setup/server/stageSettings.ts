import { count, eq, sql } from "drizzle-orm";
import { z } from "zod";
import { STAGE_KINDS } from "@/core/history/stage";
import { questionsOn } from "@/core/qualification/edition";
import { connection, type Tx } from "@/data/db";
import { dealVersions, organisationSettings, stages } from "@/data/schema";
import { command, query } from "@/platform/command";
import type { Context } from "@/platform/context";
import { Fault } from "@/platform/fault";

const item = z.object({
	/** the name it has now; null for a new stage */
	was: z.string().max(200).nullable(),
	name: z.string().trim().min(1, "A stage needs a name.").max(100, "A stage’s name has at most 100 letters."),
	kind: z.enum(STAGE_KINDS),
	probability: z.number("The chance must be a number.").min(0, "The chance is at least 0.").max(1, "The chance is at most 1."),
	usualDays: z.number("The usual days must be a number.").min(0, "Usual days can’t be negative.").max(10_000, "At most 10 000 days."),
});
export type StageInput = z.infer<typeof item>;

export interface StageView extends StageInput {
	readonly was: string;
	/** how many versions of deals stand in it, past ones too */
	readonly used: number;
	/** open deals in it today */
	readonly open: number;
}

/** The stages in order, with how much they are used. */
export const readStages = query("setup.stages", "readRules", async (_: Context): Promise<StageView[]> => {
	const rows = await connection().db.select().from(stages).orderBy(stages.position);
	const used = await usedStages(connection().db);
	const current = await connection().db.execute(sql`select stage, count(*)::int as n from deal_versions where valid_to is null group by stage`);
	const open = new Map(current.rows.map((row) => [String(row.stage), Number(row.n)]));
	return rows.map((stage) => ({
		was: stage.name,
		name: stage.name,
		kind: stage.kind as StageInput["kind"],
		probability: Number(stage.probability),
		usualDays: stage.usualDays,
		used: used.get(stage.name) ?? 0,
		open: open.get(stage.name) ?? 0,
	}));
});

async function usedStages(db: Pick<Tx, "select">): Promise<Map<string, number>> {
	const rows = await db.select({ stage: dealVersions.stage, n: count() }).from(dealVersions).groupBy(dealVersions.stage);
	return new Map(rows.flatMap((row) => (row.stage === null ? [] : [[row.stage, row.n] as const])));
}

/**
 * Sets the stages in this order. A stage that is renamed keeps its deals and its past under the new name; one
 * that is moved keeps them too, and steps forward and back are counted in the new order. A stage that deals
 * have ever stood in can't be removed, nor one by which a question is due.
 */
export const saveStages = command({
	name: "setup.saveStages",
	right: "changeRules",
	input: z.object({ stages: z.array(item).max(60, "At most 60 stages.") }),
	async run({ context, input: { stages: wish }, tx }) {
		checkStages(context, wish);
		await tx.execute(sql`lock table stages in share row exclusive mode`);
		const before = await tx.select().from(stages).orderBy(stages.position);
		const used = await usedStages(tx);
		checkKinds(wish, before, used);
		await removeStages(tx, wish, before, used);
		const renamed = await rename(tx, wish);
		await tx.execute(sql`update stages set position = -1 - position`);
		for (const [i, stage] of wish.entries()) {
			const row = { name: stage.name, position: i + 1, kind: stage.kind, probability: String(stage.probability), usualDays: stage.usualDays };
			if (stage.was === null) await tx.insert(stages).values(row);
			else await tx.update(stages).set(row).where(eq(stages.name, stage.name));
		}
		// Deals say by name where they stand.
		return { result: {}, touched: renamed ? "everything" : "settings", audit: { action: "stages changed", detail: { before, after: wish } } };
	},
});

type StoredStage = typeof stages.$inferSelect;

/** Stages that can be at all: no name twice, one of each kind, and none gone by which a question is due. */
function checkStages({ organisation, now }: Context, wish: readonly StageInput[]): void {
	const names = wish.map((stage) => stage.name.toLowerCase());
	const twice = wish.find((stage, i) => names.indexOf(stage.name.toLowerCase()) !== i);
	if (twice) throw new Fault(422, "Named twice", `Two stages are called ${twice.name}.`);
	for (const kind of STAGE_KINDS) {
		if (!wish.some((stage) => stage.kind === kind)) throw new Fault(422, "A stage is missing", `There must be at least one stage for ${kind} deals.`);
	}
	const ranks = wish.filter((stage) => stage.kind === "open").length;
	const dueTooLate = questionsOn(organisation.company.rules.editions, now.day).find((question) => question.due > ranks);
	if (!dueTooLate) return;
	const { prompt, due } = dueTooLate;
	throw new Fault(409, "A question uses it", `“${prompt}” is due at open stage ${due}; with ${ranks} there would be none. Change the question first.`);
}

function checkKinds(wish: readonly StageInput[], before: readonly StoredStage[], used: ReadonlyMap<string, number>): void {
	const known = new Map(before.map((stage) => [stage.name, stage]));
	for (const stage of wish) {
		const was = stage.was === null ? undefined : known.get(stage.was);
		if (stage.was !== null && !was) throw new Fault(409, "Changed since", `The stage ${stage.was} no longer exists. Reload the page.`);
		if (was && was.kind !== stage.kind && used.get(was.name)) {
			throw new Fault(409, "In use", `${was.name} has deals, so it must stay a stage for ${was.kind} deals.`);
		}
	}
}

async function removeStages(tx: Tx, wish: readonly StageInput[], before: readonly StoredStage[], used: ReadonlyMap<string, number>): Promise<void> {
	const kept = new Set(wish.flatMap((stage) => stage.was ?? []));
	for (const stage of before) {
		if (kept.has(stage.name)) continue;
		const n = used.get(stage.name) ?? 0;
		if (n) throw new Fault(409, "In use", `${stage.name} can’t be removed: deals were in it ${n} times. Rename or reorder it instead.`);
		await tx.delete(stages).where(eq(stages.name, stage.name));
	}
}

/** Gives stages their new names, by way of names nobody has, so that two may swap; settings follow them. Says whether any has one. */
async function rename(tx: Tx, wish: readonly StageInput[]): Promise<boolean> {
	const renamed = wish.filter((stage) => stage.was !== null && stage.was !== stage.name) as (StageInput & { was: string })[];
	if (!renamed.length) return false;
	const aside = (name: string) => `${name}\u0001`;
	for (const { was } of renamed)
		await tx
			.update(stages)
			.set({ name: aside(was) })
			.where(eq(stages.name, was));
	for (const { was, name } of renamed)
		await tx
			.update(stages)
			.set({ name })
			.where(eq(stages.name, aside(was)));
	const to = new Map(renamed.map(({ was, name }) => [was, name]));
	const [org] = await tx.select({ flags: organisationSettings.flags }).from(organisationSettings);
	const flags = Object.fromEntries(
		Object.entries(org?.flags ?? {}).map(([code, set]) => [
			code,
			set.stages ? { ...set, stages: Object.fromEntries(Object.entries(set.stages).map(([stage, own]) => [to.get(stage) ?? stage, own])) } : set,
		]),
	);
	await tx.update(organisationSettings).set({ flags });
	await tx.execute(sql`
		update import_extras e set row_key = n.name from json_to_recordset(${JSON.stringify(renamed)}::json) as n(was text, name text)
		where e.file = 'stages.csv' and e.row_key = n.was`);
	return true;
}
