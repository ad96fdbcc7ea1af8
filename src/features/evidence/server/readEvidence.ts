import type { DealSeen } from "@/core/dealSeen";
import { derive } from "@/core/derive";
import { merged } from "@/core/merged";
import type { Level } from "@/core/qualification/answer";
import { questionsOn } from "@/core/qualification/edition";
import { type Day, isoOrNull } from "@/core/time/day";
import { dueBlocks, dueIn, type ListedBlock } from "@/features/deals";
import { query } from "@/platform/command";
import type { Context } from "@/platform/context";
import { ANSWERS_KEPT, viewpointKey } from "@/platform/derivedFor";
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

/** A deal by how far its strength is from what its stage expects. */
interface Known {
	readonly seen: DealSeen;
	readonly id: string;
	readonly above: number;
}

/** What is known of some deals: how often each question is answered, due and a gap, and the deals, those known worst first. */
interface Evidence {
	readonly counts: readonly { readonly asked: number; readonly due: number; readonly gaps: number }[];
	readonly worst: readonly Known[];
}

/** What is known of the deals of a block. */
function evidenceIn(context: Context, viewpoint: Viewpoint, block: ListedBlock, questions: number): Evidence {
	const scored = dueIn(block, viewpoint).map((seen) => ({ seen, score: seen.qualification }));
	const counts = Array.from({ length: questions }, (_, i) => {
		const standings = scored.flatMap(({ score }) => score.standings[i] ?? []);
		const count = (is: (standing: (typeof standings)[number]) => boolean) => standings.filter(is).length;
		return { asked: count(({ level }) => level !== "unknown"), due: count(({ due }) => due), gaps: count(({ gap }) => gap) };
	});
	const known = scored.map(({ seen, score }): Known => ({ seen, id: context.organisation.deals[seen.deal]?.id ?? "", above: score.strength - score.expected }));
	return { counts, worst: known.sort(byNeed) };
}

const byNeed = (a: Known, b: Known) => a.above - b.above || b.seen.amountBase - a.seen.amountBase || (a.id < b.id ? -1 : 1);

/**
 * The open deals of a viewpoint by the questions: the question that is a gap most often first, and the deal that
 * lies furthest below what its stage expects first; the `limit` first ones.
 */
export const readEvidence = query("evidence.read", "readDeals", (context: Context, viewpoint: Viewpoint, limit?: number): EvidenceView => {
	const { organisation } = context;
	const { editions, rates } = organisation.company.rules;
	const edition = questionsOn(editions, viewpoint.seen.day);
	// Scores and levels aren’t looked at.
	const blocks = dueBlocks(context, viewpoint).map((block) =>
		derive(block.seen.unrated, "evidence", viewpointKey(viewpoint), () => evidenceIn(context, viewpoint, block, edition.length), ANSWERS_KEPT),
	);
	const questions = edition.map(({ id, area, prompt, weight, key }, index) => {
		const sum = (of: (count: Evidence["counts"][number]) => number) =>
			blocks.reduce((all, { counts }) => all + of(counts[index] as Evidence["counts"][number]), 0);
		return { index, id, area, prompt, weight, key, asked: sum(({ asked }) => asked), due: sum(({ due }) => due), gaps: sum(({ gaps }) => gaps) };
	});
	const share = (q: { gaps: number; due: number }) => (q.due ? q.gaps / q.due : 0);
	questions.sort((a, b) => share(b) - share(a) || a.asked - b.asked || b.weight - a.weight || a.index - b.index);
	const shown = merged(
		blocks.map(({ worst }) => worst),
		"deals by need",
		byNeed,
		limit ?? Number.POSITIVE_INFINITY,
	);
	return {
		questions: questions.map(({ index: _, ...question }) => question),
		deals: shown.map(({ seen }) => evidenceDeal(organisation, seen, viewpoint.seen.day, questions)),
		count: blocks.reduce((sum, { worst }) => sum + worst.length, 0),
		currency: rates.base,
	};
});

function evidenceDeal(organisation: Context["organisation"], seen: DealSeen, day: Day, questions: readonly { readonly index: number }[]): EvidenceDeal {
	const { strength, coverage, expected, standings } = seen.qualification;
	return {
		id: organisation.deals[seen.deal]?.id ?? "",
		name: dealName(organisation, seen.deal, day),
		account: accountName(organisation, seen.deal, day),
		owner: ownerShort(organisation, seen.owner),
		amount: seen.amountBase,
		stage: organisation.company.rules.stages[seen.stageIndex]?.name ?? "",
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
}
