import { FIELDS } from "@/core/deal/fields";
import type { FieldKey } from "@/core/deal/state";
import type { DealSeen } from "@/core/dealSeen";
import { stageTimes } from "@/core/flags/agingStage";
import { asOf, blockOf, nextStepOf } from "@/core/history/columns";
import { amountBaseOf, categoryOf, rowOf } from "@/core/inspect";
import { toNumber } from "@/core/money/decimal";
import { weightedPart } from "@/core/money/rates";
import { worksOn } from "@/core/people/person";
import { surveyOn } from "@/core/survey";
import { formatDay, isoOrNull, NO_DAY } from "@/core/time/day";
import { accountsOn, identityOn, outcomeOn } from "@/data/organisation/former";
import type { OrganisationState } from "@/data/organisation/state";
import { ownerShort } from "@/platform/names";
import type { Viewpoint } from "@/platform/viewpoint";
import { FIGURES } from "../columns";
import type { DealRow } from "../table/row";

/** versioned fields that a row carries by names of its own */
const CARRIED: readonly FieldKey[] = ["stage", "amount", "currency", "closeDate", "ownerId", "category", "nextStep", "nextStepDate"];
const MORE = FIELDS.filter(({ key }) => !CARRIED.includes(key));

/** The line of a deal that was seen, with what it was at the earlier moment. */
export function dealRow(organisation: OrganisationState, seen: DealSeen, earlier: DealSeen | null, viewpoint: Viewpoint): DealRow {
	// Long: one line a column.
	const { company } = organisation;
	const attributes = organisation.deals[seen.deal];
	const identity = attributes && identityOn(attributes, viewpoint.seen.day);
	const account = accountsOn(organisation, viewpoint.seen.day).get(identity?.accountId ?? "");
	const block = blockOf(company.history, seen.deal);
	const row = rowOf(company.history, seen);
	const own = block.amount[row] as number;
	const owner = organisation.people[seen.owner];
	const stage = company.rules.stages[seen.stageIndex];
	const times = stageTimes(company, surveyOn(company, viewpoint.seen.day).norms, seen.stageIndex);
	const before = asOf(company.history, seen.deal, viewpoint.against.day);
	return {
		id: attributes?.id ?? "",
		name: identity?.name || "No name",
		account: account?.name || "No account",
		accountId: account?.id ?? null,
		owner: owner?.name ?? "No owner",
		ownerShort: ownerShort(organisation, seen.owner),
		ownerId: owner?.id ?? null,
		ownerActive: owner !== undefined && worksOn(owner, viewpoint.seen.day),
		stage: stage?.name ?? "",
		rank: stage?.rank ?? 0,
		stageAge: seen.stageAge,
		usual: times.usual,
		usualLimit: times.limit,
		usualMost: times.most,
		usualMeasured: times.measured,
		amount: seen.amountBase,
		amountBlank: Number.isNaN(own),
		weighted: stage ? weightedPart(seen.amountBase, stage.probability) : 0,
		change: before < 0 ? null : seen.amountBase - amountBaseOf(company, block, before, viewpoint.seen.day),
		close: isoOrNull(seen.close),
		status: seen.status,
		closedOn: isoOrNull(seen.closedDay),
		trail: seen.trail.points.map((point) => [formatDay(point.close), formatDay(point.set)] as const),
		pushes: seen.trail.pushes,
		category: categoryOf(company, seen),
		strength: seen.qualification.strength,
		coverage: seen.qualification.coverage,
		expected: seen.qualification.expected,
		gaps: seen.qualification.gaps.length,
		flags: seen.flags.map(({ code, label, severity, reason }) => ({ code, label, severity, reason })),
		newlyLit: seen.flags.flatMap((flag) => (earlier?.flags.some((other) => other.code === flag.code) ? [] : [flag.code])),
		wentOut: (earlier?.flags ?? []).flatMap((flag) => (seen.flags.some((other) => other.code === flag.code) ? [] : [flag.code])),
		score: seen.attention.score,
		level: seen.attention.level,
		restsTill: seen.rest ? formatDay(seen.rest.until) : null,
		nextStep: nextStepOf(block, row) || null,
		nextStepDate: isoOrNull(block.nextStepDay[row] as number),
		lastTouch: isoOrNull(seen.contact.lastTouch),
		waiting: seen.contact.waiting?.side ?? null,
		dealAge: seen.dealAge,
		created: formatDay(company.deals[seen.deal]?.createdDay ?? 0),
		probability: stage ? toNumber(stage.probability) : 0,
		runway: seen.close === NO_DAY ? null : company.rules.calendar.between(viewpoint.seen.day, seen.close),
		ownAmount: Number.isNaN(own) ? null : own,
		ownCurrency: company.rules.currencies[block.currency[row] as number] ?? company.rules.rates.base,
		versionId: block.id[row] as number,
		source: attributes?.source ?? null,
		competitor: attributes ? outcomeOn(attributes, viewpoint.seen.day).competitor : null,
		customer: account?.kind ?? null,
		territory: account?.territory ?? null,
		industry: account?.industry ?? null,
		products: attributes?.products ?? [],
		families: attributes?.families ?? [],
		tags: attributes?.tags ?? [],
		...(MORE.length ? { more: Object.fromEntries(MORE.map(({ key, at }) => [key, at(company, block, row)])) } : {}),
		figures: Object.fromEntries(FIGURES.map(({ key, figure }) => [key, figure({ seen, organisation, viewpoint })])),
	};
}
