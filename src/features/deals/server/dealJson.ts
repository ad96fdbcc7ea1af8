import { z } from "zod";
import { LIGHTS } from "@/core/attention/attention";
import { stateAt } from "@/core/deal/fields";
import type { DealSeen } from "@/core/dealSeen";
import { blockOf } from "@/core/history/columns";
import { STAGE_KINDS } from "@/core/history/stage";
import { rowOf } from "@/core/inspect";
import { LEVELS } from "@/core/qualification/answer";
import type { Day } from "@/core/time/day";
import { formatDay, isoOrNull } from "@/core/time/day";
import { accountsOn, identityOn, outcomeOn } from "@/data/organisation/former";
import type { OrganisationState } from "@/data/organisation/state";
import { FIELD_ANSWERS } from "./fieldSchemas";

const day = z.iso.date().meta({ description: "ISO day" });

export const flagSchema = z.object({
	code: z.string(),
	severity: z.number().int().min(1).max(3),
	evidence: z.record(z.string(), z.unknown()),
	label: z.string(),
	reason: z.string(),
});

/** A deal as the API gives it, seen on a day. Amounts are integers in minor units beside their currency. */
export const dealSchema = z
	.object({
		id: z.string(),
		name: z.string(),
		accountId: z.string().nullable(),
		accountName: z.string().nullable(),
		status: z.enum(STAGE_KINDS),
		...FIELD_ANSWERS,
		stage: z.string(),
		amountBase: z.number().int(),
		baseCurrency: z.string(),
		versionId: z.number().int().meta({ description: "the version seen; a write must name it" }),
		createdOn: day,
		closedOn: day.nullable(),
		source: z.string().nullable(),
		competitor: z.string().nullable(),
		outcomeReason: z.string().nullable(),
		tags: z.array(z.string()),
		trail: z.object({
			first: day.nullable(),
			current: day.nullable(),
			pushes: z.number().int(),
			pulls: z.number().int(),
			pushedDays: z.number().int(),
			netDays: z.number().int(),
			crossings: z.number().int(),
		}),
		stageAge: z.number().int().meta({ description: "working days in the current stage" }),
		dealAge: z.number().int().meta({ description: "working days since it was created" }),
		cycles: z.number().int().meta({ description: "visits to all stages so far" }),
		lastTouch: day.nullable(),
		waiting: z.object({
			side: z.enum(["they", "we"]).nullable().meta({ description: "they: they are waiting for us; we: we are waiting for them; null: no one is waiting" }),
			since: day.nullable(),
		}),
		qualification: z.object({
			strength: z.number().int(),
			coverage: z.number().int(),
			expected: z.number().int(),
			gaps: z.array(z.string()).meta({ description: "ids of questions, most pressing first" }),
		}),
		flags: z.array(flagSchema),
		attention: z.object({
			score: z.number().int().min(0).max(100),
			level: z.enum(LIGHTS),
			risk: z.number(),
			stake: z.number(),
			urgency: z.number(),
		}),
	})
	.meta({ id: "Deal" });
export type DealJson = z.infer<typeof dealSchema>;

export const levelSchema = z.enum(LEVELS);

/** A deal as the API answers it, seen on a day; amounts in minor units, days ISO. */
export function dealJson(organisation: OrganisationState, seen: DealSeen, day: Day): DealJson {
	const { company } = organisation;
	const { history, rules } = company;
	const name = organisation.deals[seen.deal] as OrganisationState["deals"][number];
	const identity = identityOn(name, day);
	const facts = company.deals[seen.deal];
	const row = rowOf(history, seen);
	const block = blockOf(history, seen.deal);
	const { trail, contact, qualification } = seen;
	return {
		id: name.id,
		name: identity.name,
		accountId: identity.accountId,
		accountName: (identity.accountId && accountsOn(organisation, day).get(identity.accountId)?.name) || null,
		status: seen.status,
		...stateAt(company, block, row, (person) => organisation.people[person]?.id ?? null),
		stage: rules.stages[seen.stageIndex]?.name ?? "",
		amountBase: seen.amountBase,
		baseCurrency: rules.rates.base,
		versionId: block.id[row] as number,
		createdOn: formatDay(facts?.createdDay ?? 0),
		closedOn: isoOrNull(seen.closedDay),
		source: name.source,
		...outcomeOn(name, day),
		tags: [...name.tags],
		trail: {
			first: isoOrNull(trail.first),
			current: isoOrNull(trail.current),
			pushes: trail.pushes,
			pulls: trail.pulls,
			pushedDays: trail.pushedDays,
			netDays: trail.netDays,
			crossings: trail.crossings,
		},
		stageAge: seen.stageAge,
		dealAge: seen.dealAge,
		cycles: seen.path.visits.length,
		lastTouch: isoOrNull(contact.lastTouch),
		waiting: { side: contact.waiting?.side ?? null, since: contact.waiting ? formatDay(contact.waiting.since) : null },
		qualification: {
			strength: qualification.strength,
			coverage: qualification.coverage,
			expected: qualification.expected,
			gaps: qualification.gaps.map((i) => qualification.questions[i]?.id ?? ""),
		},
		flags: seen.flags.map(({ code, severity, evidence, label, reason }) => ({ code, severity, evidence: { ...evidence }, label, reason })),
		attention: { ...seen.attention },
	};
}
