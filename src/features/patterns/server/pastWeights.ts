import { z } from "zod";
import { type AttentionSettings, attentionOn, attentionValues, ownAttention } from "@/core/attention/settings";
import type { SeverityRecord } from "@/core/patterns/weights";
import { type Levels, levelsOf, surveyOn } from "@/core/survey";
import { formatDay } from "@/core/time/day";
import { connection, type Tx } from "@/data/db";
import { newestEntry } from "@/data/queries/audit";
import { organisationSettings, type StoredAttentionWas } from "@/data/schema";
import { attentionSchema } from "@/formats/bundle/settings";
import { command, lookup } from "@/platform/command";
import { Fault } from "@/platform/fault";
import { dealName } from "@/platform/names";
import type { Written } from "@/platform/write";
import { findingNow } from "./find";
import type { Sorting, WeightsFound } from "./findings/weights";

export interface PastWeights {
	readonly severities: readonly SeverityRecord[];
	/** the weight of each severity as it is now, from 1 to 3 */
	readonly now: readonly number[];
	readonly attention: AttentionSettings;
	/** the day of the newest change that was taken from the past, ISO, and its entry; null: none was */
	readonly taken: { readonly id: number; readonly since: string } | null;
}

const ACTION = "weights set from the past";

/** What the weights of flags would be if they were set by what came of past deals. */
export const readPastWeights = lookup({
	name: "patterns.weights",
	right: "changeRules",
	input: z.object({}),
	async run({ context }): Promise<PastWeights> {
		const { attention } = context.organisation.company.rules;
		const found = await findingNow<WeightsFound>(context, "weights", { day: formatDay(context.now.day), scope: null });
		const values = attentionValues(attention);
		const last = await newestEntry(connection().db, ACTION);
		const since = (last?.detail as { since?: string; how?: string } | undefined)?.since;
		return {
			severities: found.severities,
			now: [values.weight1, values.weight2, values.weight3],
			attention,
			taken: last && since && (last.detail as { how?: string }).how === "taken" ? { id: last.id, since } : null,
		};
	},
});

type Named = readonly { readonly id: string; readonly name: string }[];

export interface WeightsEffect {
	readonly before: Levels;
	readonly after: Levels;
	/** deals that would light, and that would go out */
	readonly lights: Named;
	readonly out: Named;
	readonly sorting: Sorting;
}

const wish = z.object({ attention: attentionSchema });
/** Weights that are those of the past are judged in each quarter by those of the others. */
const trial = wish.extend({ byLift: z.boolean().default(false) });

/** What other weights would do to the open deals of today, and how well they would have sorted those of the last quarters. Nothing is written. */
export const tryWeights = lookup({
	name: "patterns.tryWeights",
	right: "changeRules",
	input: trial,
	async run({ context, input }): Promise<WeightsEffect> {
		const { organisation, now } = context;
		const { company } = organisation;
		const attention = input.attention as AttentionSettings;
		const day = formatDay(now.day);
		const before = surveyOn(company, now.day);
		const after = surveyOn({ ...company, rules: { ...company.rules, attention, attentionWas: [] } }, now.day);
		const lit = (survey: typeof before, deal: number) => {
			const seen = survey.deals[deal];
			return seen?.status === "open" && seen.attention.level !== "calm";
		};
		const named = (holds: (deal: number) => boolean): Named =>
			[...company.deals.keys()].filter(holds).map((deal) => ({ id: organisation.deals[deal]?.id ?? "", name: dealName(organisation, deal) }));
		return {
			before: levelsOf(before),
			after: levelsOf(after),
			lights: named((deal) => lit(after, deal) && !lit(before, deal)),
			out: named((deal) => lit(before, deal) && !lit(after, deal)),
			sorting: (await findingNow<WeightsFound>(context, "weights", { day, scope: null, attention, byLift: input.byLift })).sorting,
		};
	},
});

/** Takes weights from today on; what days before were judged by stays as it was. Answers the entry by which it is undone. */
export const takeWeights = command({
	name: "patterns.takeWeights",
	right: "changeRules",
	input: wish,
	async run({ context, input, tx }) {
		const { rules } = context.organisation.company;
		const since = formatDay(context.now.day);
		const [org] = await tx
			.select({ attention: organisationSettings.attention, was: organisationSettings.attentionWas })
			.from(organisationSettings)
			.for("update");
		const was = org?.was ?? [];
		const today = was.at(-1)?.until === since;
		return setWeights(tx, {
			attention: ownAttention(input.attention as AttentionSettings),
			was: today ? was : [...was, { until: since, set: org?.attention ?? attentionOn(rules, context.now.day) }],
			how: "taken",
			since,
		});
	},
});

/**
 * Brings back what stood before the newest taking.
 *
 * @throws Fault 409 when the weights were set again since
 */
export const undoWeights = command({
	name: "patterns.undoWeights",
	right: "changeRules",
	input: z.object({ change: z.number().int() }),
	async run({ input: { change }, tx }) {
		const newest = await newestEntry(tx, ACTION);
		const detail = newest?.detail as { before?: AttentionSettings; wasBefore?: StoredAttentionWas[]; after?: AttentionSettings; since?: string } | undefined;
		const [org] = await tx.select({ attention: organisationSettings.attention }).from(organisationSettings).for("update");
		if (newest?.id !== change || !detail?.before || JSON.stringify(org?.attention) !== JSON.stringify(detail.after))
			throw new Fault(409, "Changed since", "The weights were changed again since, so they can’t be undone.");
		return setWeights(tx, { attention: detail.before, was: detail.wasBefore ?? [], how: "undone", since: detail.since ?? "" });
	},
});

interface Wish {
	readonly attention: AttentionSettings;
	readonly was: StoredAttentionWas[];
	readonly how: "taken" | "undone";
	readonly since: string;
}

async function setWeights(tx: Tx, { attention, was, how, since }: Wish): Promise<Written<{ change: number }>> {
	const [org] = await tx.select({ attention: organisationSettings.attention, was: organisationSettings.attentionWas }).from(organisationSettings);
	await tx.update(organisationSettings).set({ attention, attentionWas: was });
	return {
		result: ([change = 0]) => ({ change }),
		touched: "settings",
		audit: { action: ACTION, detail: { before: org?.attention ?? {}, wasBefore: org?.was ?? [], after: attention, how, since } },
	};
}
