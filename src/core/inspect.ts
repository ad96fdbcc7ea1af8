import type { Company, DealBlock, DealFacts, Ledger, LedgerBlock, Rules } from "./company";
import { contactOf } from "./contact/contact";
import type { DealSeen } from "./dealSeen";
import { firesOf, flagsOf } from "./flags/list";
import type { Norms, Subject } from "./flags/rule";
import { staleAfterIn } from "./flags/staleAnswers";
import { asOf, type Block, blockOf, CATEGORIES, type Category, dayEndsIn, endRow, firstRow, type History, lastOn, NONE } from "./history/columns";
import { pathOf, type Visit } from "./history/path";
import type { Stage } from "./history/stage";
import { questionsOn } from "./qualification/edition";
import { type Qualification, scoreOf, scoresOf } from "./qualification/score";
import { ClosedDeal, OpenDeal, type SeenDeal, type Sight } from "./seenDeal";
import type { Day } from "./time/day";
import { trailOf } from "./trail/trail";

/** The row, in the block of its deal, of the version that was seen. */
export const rowOf = (history: History, { deal, versionOrdinal }: Pick<DealSeen, "deal" | "versionOrdinal">): number =>
	firstRow(blockOf(history, deal), deal) + versionOrdinal;

/** The category of the version that was seen; null where it is blank. */
export const categoryOf = ({ history }: Company, seen: Pick<DealSeen, "deal" | "versionOrdinal">): Category | null =>
	CATEGORIES[blockOf(history, seen.deal).category[rowOf(history, seen)] as number] ?? null;

/** The amount of a version in base minor units at the rates of a day; a blank amount counts as 0. */
export function amountBaseOf({ rules: { rates, currencies } }: Pick<Company, "rules">, block: Block, row: number, ratesOn: Day): number {
	const amount = block.amount[row] as number;
	if (Number.isNaN(amount)) return 0;
	const currency = block.currency[row] as number;
	return rates.toBase(amount, currency === NONE ? rates.base : (currencies[currency] as string), ratesOn);
}

/** `amountBaseOf` for many versions: each currency's rate of the day is looked up once. */
export function blockAmounts(
	{ rules: { rates, currencies } }: Pick<Ledger, "rules">,
	ratesOn: Day,
): (block: Pick<LedgerBlock, "amount" | "currency">, row: number) => number {
	const convert = currencies.map((code) => rates.converter(code, ratesOn));
	return (block, row) => {
		const own = block.amount[row] as number;
		if (Number.isNaN(own)) return 0;
		const to = convert[block.currency[row] as number];
		return to ? to(own) : own;
	};
}

/** The same for versions that are named by their deal and row. */
export function amountsBase(company: Ledger, ratesOn: Day): (deal: number, row: number) => number {
	const amountOf = blockAmounts(company, ratesOn);
	return (deal, row) => amountOf(blockOf(company.history, deal), row);
}

/** What was said of deals on a day, and the norms it was said by. */
export interface Inspected {
	readonly norms: Norms;
	readonly deals: readonly (DealSeen | null)[];
}

/** A deal seen on the day of the norms, or null when it wasn't there. Flags and attention only while it is open. */
export const inspect = ({ rules, people, blocks }: Company, deal: number, norms: Norms): SeenDeal | null =>
	inspectIn(blockOf({ blocks }, deal), deal, { rules, people, norms });

/** The deal of a block, by its index in the company, seen by rules and norms. */
export function inspectIn(block: DealBlock, deal: number, sight: Sight): SeenDeal | null {
	const { versions } = block;
	const facts = block.facts[deal - block.first];
	const { rules, norms } = sight;
	const row = lastOn(versions.day, firstRow(versions, deal), endRow(versions, deal), norms.day);
	const stage = row < 0 ? undefined : rules.stages[versions.stage[row] as number];
	if (!facts || !stage) return null;
	const versionOrdinal = row - firstRow(versions, deal);
	if (stage.kind !== "open") return new ClosedDeal(deal, versionOrdinal, amountBaseOf(sight, versions, row, norms.day), block, sight);
	const scored = scoreOf(questionsOn(rules.editions, norms.day), facts.answers, stage.rank, norms.day, rules.calendar, staleAfterIn(rules.flags, stage.name));
	// What rules look at is at hand here, and isn’t kept.
	const subject = openSubject(sight, deal, walkedTo(rules, versions, deal, row, norms.day), versions, facts, stage, scored);
	return new OpenDeal(deal, versionOrdinal, subject.amountBase, block, sight, subject.stageAge, (self) => flagsOf(subject, self));
}

/** What of a deal was read up to a row: it is the same on all days on which that is in force, but for how long the last visit has lasted. */
type Walked = Pick<Subject, "row" | "path" | "trail">;

function walkedTo({ stages, calendar, fiscal }: Rules, versions: Block, deal: number, row: number, seen: Day): Walked {
	const ends = dayEndsIn(versions, deal, seen);
	return { row, path: pathOf(versions, ends, stages, calendar, seen), trail: trailOf(versions, ends, fiscal) };
}

/** What rules look at of a deal that is open on the day of the norms, by the row in force then. */
function openSubject(
	sight: Sight,
	deal: number,
	{ row, path, trail }: Walked,
	versions: Block,
	facts: DealFacts,
	stage: Stage,
	qualification: Qualification,
): Subject {
	// Spelt out, not spread: it runs for every open deal of every day that is looked at.
	const { rules, people, norms } = sight;
	const seen = norms.day;
	return {
		rules,
		people,
		norms,
		deal,
		facts,
		versions,
		row,
		owner: versions.owner[row] as number,
		category: versions.category[row] as number,
		seen,
		stage,
		stageIndex: versions.stage[row] as number,
		amountBase: amountBaseOf(sight, versions, row, seen),
		amountBlank: Number.isNaN(versions.amount[row] as number),
		close: versions.close[row] as number,
		nextStepDay: versions.nextStepDay[row] as number,
		path,
		stageAge: path.visits.at(-1)?.length ?? 0,
		dealAge: rules.calendar.between(facts.createdDay, seen),
		trail,
		contact: contactOf(facts.activities, seen),
		qualification,
	};
}

/**
 * Which flags a deal carries on the day of some norms, as `firesOf` says it; null where it isn’t open then: what `inspect`
 * says of them, without the rest. Asked for many days, what is the same on the next one is kept.
 */
export function firesOfDeal(company: Company, deal: number): (norms: Norms) => number | null {
	const { history, rules, people } = company;
	const facts = company.deals[deal];
	if (!facts) return () => null;
	const block = blockOf(history, deal);
	const scoreOn = scoresOf(facts.answers, rules.calendar);
	let kept: { -readonly [K in keyof Subject]: Subject[K] } | null = null;
	return (norms) => {
		const seen = norms.day;
		const row = asOf(history, deal, seen);
		const stage = row < 0 ? undefined : rules.stages[block.stage[row] as number];
		if (stage?.kind !== "open") return null;
		const scored = scoreOn(questionsOn(rules.editions, seen), stage.rank, seen, staleAfterIn(rules.flags, stage.name));
		if (kept?.row !== row) kept = openSubject({ rules, people, norms }, deal, walkedTo(rules, block, deal, row, seen), block, facts, stage, scored);
		else {
			kept.norms = norms;
			kept.seen = seen;
			kept.amountBase = amountBaseOf(company, block, row, seen);
			kept.dealAge = rules.calendar.between(facts.createdDay, seen);
			kept.contact = contactOf(facts.activities, seen);
			kept.qualification = scored;
			// The same row is in force: what went on is the visit under way alone, and this path is nobody else’s.
			const last = kept.path.visits.at(-1) as { -readonly [K in keyof Visit]: Visit[K] };
			last.to = seen;
			last.length = rules.calendar.between(last.from, seen);
			kept.stageAge = last.length;
		}
		return firesOf(kept);
	};
}
