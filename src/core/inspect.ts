import { type Attention, attentionOf } from "./attention/attention";
import { type Rest, resting, restOn } from "./attention/rest";
import { ClosedDeal } from "./closedDeal";
import type { Company, DealFacts, Ledger, LedgerBlock } from "./company";
import { contactOf } from "./contact/contact";
import type { DealSeen } from "./dealSeen";
import { firesOf, flagsAgain, flagsOf } from "./flags/list";
import type { NormName, Norms, Subject } from "./flags/rule";
import { staleAfterIn } from "./flags/staleAnswers";
import { asOf, type Block, blockOf, CATEGORIES, type Category, dayEndsIn, firstRow, type History, NONE } from "./history/columns";
import { pathOf, type Visit } from "./history/path";
import type { Stage } from "./history/stage";
import { questionsOn } from "./qualification/edition";
import { type Qualification, scoreOf, scoresOf } from "./qualification/score";
import { type Day, NO_DAY } from "./time/day";
import { trailOf } from "./trail/trail";

/** The row, in the block of its deal, of the version that was seen. */
export const rowOf = (history: History, { deal, versionOrdinal }: Pick<DealSeen, "deal" | "versionOrdinal">): number =>
	firstRow(blockOf(history, deal), deal) + versionOrdinal;

/** The category of the version that was seen; null where it is blank. */
export const categoryOf = ({ history }: Company, seen: Pick<DealSeen, "deal" | "versionOrdinal">): Category | null =>
	CATEGORIES[blockOf(history, seen.deal).category[rowOf(history, seen)] as number] ?? null;

/** The amount of a version in base minor units at the rates of a day; a blank amount counts as 0. */
export function amountBaseOf(company: Company, block: Block, row: number, ratesOn: Day): number {
	const amount = block.amount[row] as number;
	if (Number.isNaN(amount)) return 0;
	const currency = block.currency[row] as number;
	const { rates, currencies } = company.rules;
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

/**
 * A deal in which nothing changed, against norms of which some did: what those make of it. The same as inspecting it anew,
 * and the same object where nothing comes of it.
 */
export function inspectAgain(company: Company, seen: DealSeen, norms: Norms, differ: ReadonlySet<NormName>): DealSeen {
	// Told by its status, not by its class, which each bundle of the server has a copy of its own of.
	if (seen.status !== "open") return differ.has("medianAmount") ? (seen as ClosedDeal).against(norms) : seen;
	const flags = flagsAgain(subjectOf(company, norms, seen), seen.flags, differ);
	if (flags === seen.flags && !differ.has("medianAmount")) return seen;
	const full = attentionOf(flags, seen.amountBase, norms.medianAmount, seen.close, norms.day, company.rules.calendar, norms.attention);
	return { ...seen, flags, ...atRest(full, restOn(company.deals[seen.deal]?.rests ?? [], flags, norms.day)) };
}

/** What rules look at, of a deal that was seen before. */
function subjectOf(company: Company, norms: Norms, seen: DealSeen): Subject {
	const { history, rules } = company;
	const row = rowOf(history, seen);
	const block = blockOf(history, seen.deal);
	return {
		...seen,
		row,
		company,
		norms,
		category: block.category[row] as number,
		seen: norms.day,
		stage: rules.stages[seen.stageIndex] as Subject["stage"],
		amountBlank: Number.isNaN(block.amount[row] as number),
		nextStepDay: block.nextStepDay[row] as number,
	};
}

/** A deal seen on the day of the norms, or null when it wasn't there. Flags and attention only while it is open. */
export function inspect(company: Company, deal: number, norms: Norms): DealSeen | null {
	// Spelt out, not spread: it runs for every open deal of every day that is looked at.
	const { history, rules } = company;
	const seen = norms.day;
	const facts = company.deals[deal];
	const row = asOf(history, deal, seen);
	if (!facts || row < 0) return null;
	const block = blockOf(history, deal);
	const stage = rules.stages[block.stage[row] as number];
	if (!stage) return null;
	const versionOrdinal = row - firstRow(block, deal);
	if (stage.kind !== "open") return new ClosedDeal(deal, versionOrdinal, stage.kind, amountBaseOf(company, block, row, seen), block, facts, rules, norms);
	const scored = scoreOf(questionsOn(rules.editions, seen), facts.answers, stage.rank, seen, rules.calendar, staleAfterIn(rules.flags, stage.name));
	const subject = openSubject(company, deal, walkedTo(company, block, deal, row, seen), block, facts, stage, norms, scored);
	const { stageIndex, amountBase, close, owner, path, stageAge, dealAge, trail, contact, qualification } = subject;
	const flags = flagsOf(subject);
	const full = attentionOf(flags, amountBase, norms.medianAmount, close, seen, rules.calendar, norms.attention);
	const { attention, ownLevel, rest } = atRest(full, restOn(facts.rests, flags, seen));
	return {
		deal,
		versionOrdinal,
		status: stage.kind,
		stageIndex,
		amountBase,
		close,
		closedDay: NO_DAY,
		owner,
		path,
		stageAge,
		dealAge,
		trail,
		contact,
		qualification,
		flags,
		attention,
		ownLevel,
		rest,
	};
}

/** What of a deal was read up to a row: it is the same on all days on which that is in force, but for how long the last visit has lasted. */
type Walked = Pick<Subject, "row" | "path" | "trail">;

function walkedTo(company: Company, block: Block, deal: number, row: number, seen: Day): Walked {
	const { stages, calendar, fiscal } = company.rules;
	const ends = dayEndsIn(block, deal, seen);
	return { row, path: pathOf(block, ends, stages, calendar, seen), trail: trailOf(block, ends, fiscal) };
}

/** What rules look at of a deal that is open on the day of the norms, by the row in force then. */
function openSubject(
	company: Company,
	deal: number,
	{ row, path, trail }: Walked,
	block: Block,
	facts: DealFacts,
	stage: Stage,
	norms: Norms,
	qualification: Qualification,
): Subject {
	const { rules } = company;
	const seen = norms.day;
	return {
		company,
		norms,
		deal,
		row,
		owner: block.owner[row] as number,
		category: block.category[row] as number,
		seen,
		stage,
		stageIndex: block.stage[row] as number,
		amountBase: amountBaseOf(company, block, row, seen),
		amountBlank: Number.isNaN(block.amount[row] as number),
		close: block.close[row] as number,
		nextStepDay: block.nextStepDay[row] as number,
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
	const { history, rules } = company;
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
		if (kept?.row !== row) kept = openSubject(company, deal, walkedTo(company, block, deal, row, seen), block, facts, stage, norms, scored);
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

const atRest = (full: Attention, rest: Rest | null): Pick<DealSeen, "attention" | "ownLevel" | "rest"> => ({
	attention: rest ? resting(full) : full,
	ownLevel: full.level,
	rest,
});
