import type { Level } from "@/core/qualification/answer";
import { questionsOn } from "@/core/qualification/edition";
import { isoOrNull } from "@/core/time/day";
import { dueDeals } from "@/features/deals";
import { query } from "@/platform/command";
import type { Context } from "@/platform/context";
import { accountName, dealName, ownerShort } from "@/platform/names";
import type { Viewpoint } from "@/platform/viewpoint";

export interface EvidenceQuestion {
	readonly id: string;
	readonly area: string;
	readonly prompt: string;
	readonly weight: number;
	readonly key: boolean;
	/** deals with an answer other than unknown, those on which it is due, and those on which it is a gap */
	readonly asked: number;
	readonly due: number;
	readonly gaps: number;
}

export interface EvidenceDeal {
	readonly id: string;
	readonly name: string;
	readonly account: string;
	readonly owner: string;
	readonly amount: number;
	readonly stage: string;
	readonly strength: number;
	readonly coverage: number;
	readonly expected: number;
	/** by question, in the order of the questions */
	readonly cells: readonly { readonly level: Level; readonly due: boolean; readonly gap: boolean; readonly stale: boolean; readonly day: string | null }[];
}

export interface EvidenceView {
	readonly questions: readonly EvidenceQuestion[];
	/** those known worst, as many as were asked for */
	readonly deals: readonly EvidenceDeal[];
	/** how many deals there are; the questions count them all */
	readonly count: number;
	readonly currency: string;
}

/**
 * The open deals of a viewpoint by the questions: the question that is a gap most often first, and the deal that
 * lies furthest below what its stage expects first; the `limit` first ones.
 */
export const readEvidence = query("evidence.read", "readDeals", (context: Context, viewpoint: Viewpoint, limit?: number): EvidenceView => {
	const { organisation } = context;
	const { stages, editions, rates } = organisation.company.rules;
	const seen = dueDeals(context, viewpoint);
	const questions = questionsOn(editions, viewpoint.seen.day).map((question, i) => {
		const standings = seen.flatMap((deal) => deal.qualification.standings[i] ?? []);
		return {
			index: i,
			id: question.id,
			area: question.area,
			prompt: question.prompt,
			weight: question.weight,
			key: question.key,
			asked: standings.filter((s) => s.level !== "unknown").length,
			due: standings.filter((s) => s.due).length,
			gaps: standings.filter((s) => s.gap).length,
		};
	});
	const share = (q: { gaps: number; due: number }) => (q.due ? q.gaps / q.due : 0);
	questions.sort((a, b) => share(b) - share(a) || a.asked - b.asked || b.weight - a.weight || a.index - b.index);
	const known = ({ qualification: { strength, expected } }: (typeof seen)[number]) => strength - expected;
	const idOf = (deal: (typeof seen)[number]) => organisation.deals[deal.deal]?.id ?? "";
	const worst = [...seen].sort((a, b) => known(a) - known(b) || b.amountBase - a.amountBase || (idOf(a) < idOf(b) ? -1 : 1));
	const deals = worst.slice(0, limit).map((deal): EvidenceDeal => {
		const { strength, coverage, expected, standings } = deal.qualification;
		return {
			id: idOf(deal),
			name: dealName(organisation, deal.deal, viewpoint.seen.day),
			account: accountName(organisation, deal.deal, viewpoint.seen.day),
			owner: ownerShort(organisation, deal.owner),
			amount: deal.amountBase,
			stage: stages[deal.stageIndex]?.name ?? "",
			strength,
			coverage,
			expected,
			cells: questions.map(({ index }) => {
				const standing = standings[index];
				return {
					level: standing?.level ?? "unknown",
					due: standing?.due ?? false,
					gap: standing?.gap ?? false,
					stale: standing?.stale ?? false,
					day: standing ? isoOrNull(standing.day) : null,
				};
			}),
		};
	});
	return { questions: questions.map(({ index: _, ...question }) => question), deals, count: seen.length, currency: rates.base };
});
