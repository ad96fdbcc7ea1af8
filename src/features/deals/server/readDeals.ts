import { membership } from "@/core/bridge/scope";
import { RULES } from "@/core/flags/list";
import type { Severity } from "@/core/flags/rule";
import { asOf, CATEGORIES, nextStepOf } from "@/core/history/columns";
import { amountBaseOf, type DealSeen } from "@/core/inspect";
import { weightedPart } from "@/core/money/rates";
import { worksOn } from "@/core/people/person";
import { formatDay, isoOrNull, NO_DAY } from "@/core/time/day";
import type { OrganisationState } from "@/data/organisation/state";
import { query } from "@/platform/command";
import type { Context } from "@/platform/context";
import { keptFor } from "@/platform/keptFor";
import { accountName } from "@/platform/names";
import { reaches } from "@/platform/reach";
import { surveyOn } from "@/platform/survey";
import type { Viewpoint } from "@/platform/viewpoint";
import { FIGURES } from "../columns";
import type { Cell } from "../columns/column";

/** One line of the list of deals. Amounts in base minor units, days ISO. */
export interface DealRow {
	readonly id: string;
	readonly name: string;
	readonly account: string;
	readonly owner: string;
	readonly ownerId: string | null;
	/** false when nobody who works here owns it */
	readonly ownerActive: boolean;
	readonly stage: string;
	readonly rank: number;
	readonly stageAge: number;
	readonly usual: number;
	readonly usualLimit: number;
	readonly usualMeasured: boolean;
	readonly amount: number;
	readonly amountBlank: boolean;
	readonly weighted: number;
	/** what the amount changed by since the earlier moment; null when the deal is new since */
	readonly change: number | null;
	readonly close: string | null;
	/** close dates of the trail with the day each was set, oldest first */
	readonly trail: readonly (readonly [close: string, set: string])[];
	readonly pushes: number;
	readonly category: string | null;
	readonly strength: number;
	readonly coverage: number;
	readonly expected: number;
	readonly gaps: number;
	readonly flags: readonly { readonly code: string; readonly label: string; readonly severity: Severity; readonly reason: string }[];
	/** codes of flags that lit since the earlier moment, and of those that went out */
	readonly newlyLit: readonly string[];
	readonly wentOut: readonly string[];
	readonly score: number;
	readonly level: string;
	readonly nextStep: string | null;
	readonly nextStepDate: string | null;
	readonly lastTouch: string | null;
	/** who waits, and since when */
	readonly waiting: "they" | "we" | null;
	readonly dealAge: number;
	readonly created: string;
	/** chance of being won, 0 to 1, of its stage */
	readonly probability: number;
	/** working days to the close date; null without one */
	readonly runway: number | null;
	readonly ownAmount: number | null;
	readonly ownCurrency: string;
	/** the version seen; an edit names it */
	readonly versionId: number;
	readonly source: string | null;
	readonly competitor: string | null;
	readonly customer: string | null;
	readonly territory: string | null;
	readonly industry: string | null;
	readonly products: readonly string[];
	readonly families: readonly string[];
	readonly tags: readonly string[];
	/** figures of columns of their own, by the column's key */
	readonly figures: Readonly<Record<string, Cell>>;
}

export interface DealsView {
	readonly rows: readonly DealRow[];
	readonly currency: string;
	/** names of the flags, in their order */
	readonly flagNames: readonly { readonly code: string; readonly name: string; readonly about: string }[];
	/** open deals of the same people outside the period */
	readonly also: { readonly before: number; readonly after: number; readonly undated: number };
}

/** The open deals of a viewpoint, most worrying first. */
export const readDeals = query("deals.read", "readDeals", (context: Context, viewpoint: Viewpoint): DealsView => {
	const { organisation } = context;
	const { company } = organisation;
	const { scope } = viewpoint.whose;
	const survey = surveyOn(company, viewpoint.seen.day);
	const earlier = surveyOn(company, viewpoint.against.day);
	const also = { before: 0, after: 0, undated: 0 };
	const rows: DealRow[] = [];
	const isListed = listing(organisation, viewpoint);
	for (const seen of survey.deals) {
		if (seen?.status !== "open" || !reaches(scope, seen.owner)) continue;
		if (isListed(seen)) rows.push(rowOf(organisation, seen, earlier.deals[seen.deal] ?? null, viewpoint));
		else if (seen.close === NO_DAY) also.undated++;
		else if (viewpoint.due.period && seen.close < viewpoint.due.period.start) also.before++;
		else also.after++;
	}
	rows.sort((a, b) => b.score - a.score || b.amount - a.amount || (a.id < b.id ? -1 : a.id > b.id ? 1 : 0));
	return { rows, currency: company.rules.rates.base, flagNames: RULES.map(({ code, name, about }) => ({ code, name, about })), also };
});

/** The open deals of a viewpoint as they are seen on its day, in no order. */
export function listedDeals(context: Context, viewpoint: Viewpoint): readonly DealSeen[] {
	const { organisation } = context;
	return keptFor(context, viewpoint, "listed", () => {
		const isListed = listing(organisation, viewpoint);
		const { scope } = viewpoint.whose;
		return surveyOn(organisation.company, viewpoint.seen.day).deals.flatMap((seen) =>
			seen?.status === "open" && reaches(scope, seen.owner) && isListed(seen) ? [seen] : [],
		);
	});
}

/** Whether an open deal of the viewpoint's people closes in its period; without one, whether it has no close date. Made once for all deals. */
function listing({ company }: OrganisationState, { due, whose }: Viewpoint): (seen: DealSeen) => boolean {
	if (!due.period) return (seen) => seen.close === NO_DAY;
	const isHere = membership(company, due.period, whose.scope);
	return (seen) => isHere(seen.row);
}

function rowOf(organisation: OrganisationState, seen: DealSeen, earlier: DealSeen | null, viewpoint: Viewpoint): DealRow {
	const { company } = organisation;
	const name = organisation.deals[seen.deal];
	const account = organisation.accounts.get(name?.accountId ?? "");
	const own = company.history.amount[seen.row] as number;
	const owner = organisation.people[seen.owner];
	const stage = company.rules.stages[seen.stageIndex];
	const usual = surveyOn(company, viewpoint.seen.day).norms.usual.stages[seen.stageIndex];
	const before = asOf(company.history, seen.deal, viewpoint.against.day);
	return {
		id: name?.id ?? "",
		name: name?.name || "No name",
		account: accountName(organisation, seen.deal),
		owner: owner?.name ?? "No owner",
		ownerId: owner?.id ?? null,
		ownerActive: owner !== undefined && worksOn(owner, viewpoint.seen.day),
		stage: stage?.name ?? "",
		rank: stage?.rank ?? 0,
		stageAge: seen.stageAge,
		usual: usual?.half.days ?? 0,
		usualLimit: usual?.threeQuarters.days ?? 0,
		usualMeasured: usual?.half.measured ?? false,
		amount: seen.amountBase,
		amountBlank: Number.isNaN(own),
		weighted: stage ? weightedPart(seen.amountBase, stage.probability) : 0,
		change: before < 0 ? null : seen.amountBase - amountBaseOf(company, before, viewpoint.seen.day),
		close: isoOrNull(seen.close),
		trail: seen.trail.points.map((point) => [formatDay(point.close), formatDay(point.set)] as const),
		pushes: seen.trail.pushes,
		category: CATEGORIES[company.history.category[seen.row] as number] ?? null,
		strength: seen.qualification.strength,
		coverage: seen.qualification.coverage,
		expected: seen.qualification.expected,
		gaps: seen.qualification.gaps.length,
		flags: seen.flags.map(({ code, label, severity, reason }) => ({ code, label, severity, reason })),
		newlyLit: seen.flags.flatMap((flag) => (earlier?.flags.some((other) => other.code === flag.code) ? [] : [flag.code])),
		wentOut: (earlier?.flags ?? []).flatMap((flag) => (seen.flags.some((other) => other.code === flag.code) ? [] : [flag.code])),
		score: seen.attention.score,
		level: seen.attention.level,
		nextStep: nextStepOf(company.history, seen.row) || null,
		nextStepDate: isoOrNull(company.history.nextStepDay[seen.row] as number),
		lastTouch: isoOrNull(seen.contact.lastTouch),
		waiting: seen.contact.waiting?.side ?? null,
		dealAge: seen.dealAge,
		created: formatDay(company.deals[seen.deal]?.createdDay ?? 0),
		probability: stage ? stage.probability.units / 10 ** stage.probability.scale : 0,
		runway: seen.close === NO_DAY ? null : company.rules.calendar.between(viewpoint.seen.day, seen.close),
		ownAmount: Number.isNaN(own) ? null : own,
		ownCurrency: company.rules.currencies[company.history.currency[seen.row] as number] ?? company.rules.rates.base,
		versionId: company.history.id[seen.row] as number,
		source: name?.source ?? null,
		competitor: name?.competitor ?? null,
		customer: account?.kind ?? null,
		territory: account?.territory ?? null,
		industry: account?.industry ?? null,
		products: name?.products ?? [],
		families: name?.families ?? [],
		tags: name?.tags ?? [],
		figures: Object.fromEntries(FIGURES.map(({ key, figure }) => [key, figure({ seen, organisation, viewpoint })])),
	};
}

/** How many of a viewpoint's deals are lit: the count beside the rail's word. */
export function countLit(context: Context, viewpoint: Viewpoint): number {
	return listedDeals(context, viewpoint).filter((seen) => seen.attention.level !== "calm").length;
}
