import { questionsOn } from "../core/qualification/edition";
import type { Level } from "../core/qualification/score";
import { isoOrNull } from "../core/time/day";
import type { Context } from "./context";
import { accountName, listedDeals, ownerName } from "./readDeals";
import { demand } from "./rights";
import type { Sentence } from "./sentence";

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
	readonly deals: readonly EvidenceDeal[];
	readonly currency: string;
}

/**
 * The open deals of a sentence by the questions: the question that is a gap most often first, and the deal that
 * lies furthest below what its stage expects first.
 */
export function readEvidence(context: Context, sentence: Sentence): EvidenceView {
	demand(context.actor, "readDeals");
	const { memory } = context;
	const { stages, editions, rates } = memory.company.rules;
	const seen = listedDeals(context, sentence);
	const questions = questionsOn(editions, sentence.seen.day).map((question, i) => {
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
	const deals = seen
		.map((deal): EvidenceDeal => {
			const { strength, coverage, expected, standings } = deal.qualification;
			return {
				id: memory.deals[deal.deal]?.id ?? "",
				name: memory.deals[deal.deal]?.name || "No name",
				account: accountName(memory, deal.deal),
				owner: ownerName(memory, deal.owner),
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
		})
		.sort((a, b) => b.expected - b.strength - (a.expected - a.strength) || b.amount - a.amount || (a.id < b.id ? -1 : 1));
	return { questions: questions.map(({ index: _, ...question }) => question), deals, currency: rates.base };
}
