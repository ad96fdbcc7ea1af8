import { type Attention, attentionOf, type Light } from "./attention/attention";
import { type Rest, resting, restOn } from "./attention/rest";
import type { Company, Ledger, LedgerBlock } from "./company";
import { type Contact, contactOf } from "./contact/contact";
import { derived } from "./derive";
import { flagsAgain, flagsOf } from "./flags/list";
import { type Flag, type NormName, type Norms, type Subject, valuesOf } from "./flags/rule";
import type { FlagSettings } from "./flags/settings";
import { staleAnswers } from "./flags/staleAnswers";
import { type Block, blockOf, CATEGORIES, type Category, dayEnds, firstRow, type History, NONE } from "./history/columns";
import { type Path, pathOf } from "./history/path";
import type { StageKind } from "./history/stage";
import { questionsOn } from "./qualification/edition";
import { type Qualification, scoreOf } from "./qualification/score";
import type { Day } from "./time/day";
import { type Trail, trailOf } from "./trail/trail";

/** Everything the program says of one deal seen on one day. */
export interface DealSeen {
	readonly deal: number;
	/** which of the deal's own versions it is, from 0: that stays, where its row in the history moves with others' versions */
	readonly versionOrdinal: number;
	readonly status: StageKind;
	readonly stageIndex: number;
	/** base minor units, 0 where blank */
	readonly amountBase: number;
	readonly close: Day;
	readonly owner: number;
	readonly path: Path;
	readonly stageAge: number;
	readonly dealAge: number;
	readonly trail: Trail;
	readonly contact: Contact;
	readonly qualification: Qualification;
	readonly flags: readonly Flag[];
	readonly attention: Attention;
	/** the level by the score alone, rests aside: what learning and outlook go by, since a rest says nothing of a deal's chance */
	readonly ownLevel: Light;
	/** left alone on this day, and so at the level of a calm one */
	readonly rest: Rest | null;
}

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
	const open = seen.status === "open";
	const flags = open ? flagsAgain(subjectOf(company, norms, seen), seen.flags, differ) : seen.flags;
	if (flags === seen.flags && !differ.has("medianAmount")) return seen;
	const full = attentionOf(flags, seen.amountBase, norms.medianAmount, seen.close, norms.day, company.rules.calendar, norms.attention);
	return { ...seen, flags, ...atRest(full, open ? restOn(company.deals[seen.deal]?.rests ?? [], flags, norms.day) : null) };
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
	// Long: spelt out, not spread over functions: it runs for every open deal of every day.
	const { history, rules } = company;
	const seen = norms.day;
	const facts = company.deals[deal];
	const ends = dayEnds(history, deal, seen);
	const row = ends.at(-1);
	if (!facts || row === undefined) return null;
	const block = blockOf(history, deal);
	const stageIndex = block.stage[row] as number;
	const stage = rules.stages[stageIndex];
	if (!stage) return null;

	const path = pathOf(block, ends, rules.stages, rules.calendar, seen);
	const visit = path.visits.at(-1);
	const open = stage.kind === "open";
	const lastOpen = rules.stages[visit?.stage ?? NONE];
	const close = block.close[row] as number;
	const amountBase = amountBaseOf(company, block, row, seen);
	const place = open ? stage : lastOpen;
	const stageAge = open ? (visit?.length ?? 0) : 0;
	const dealAge = rules.calendar.between(facts.createdDay, open ? seen : path.closedDay);
	const trail = trailOf(block, ends, rules.fiscalStart);
	const contact = contactOf(facts.activities, seen);
	const staleAfter = staleAfterIn(rules.flags, place?.name ?? null);
	const qualification = scoreOf(questionsOn(rules.editions, seen), facts.answers, place?.rank ?? 0, seen, rules.calendar, staleAfter);
	const owner = block.owner[row] as number;
	// Spelt out, not spread: this runs for every open deal of every day that is looked at.
	const flags = open
		? flagsOf({
				company,
				norms,
				deal,
				row,
				owner,
				category: block.category[row] as number,
				seen,
				stage,
				stageIndex,
				amountBase,
				amountBlank: Number.isNaN(block.amount[row] as number),
				close,
				nextStepDay: block.nextStepDay[row] as number,
				path,
				stageAge,
				dealAge,
				trail,
				contact,
				qualification,
			})
		: NO_FLAGS;
	const full = attentionOf(flags, amountBase, norms.medianAmount, close, seen, rules.calendar, norms.attention);
	const { attention, ownLevel, rest } = atRest(full, open ? restOn(facts.rests, flags, seen) : null);
	return {
		deal,
		versionOrdinal: row - firstRow(block, deal),
		status: stage.kind,
		stageIndex,
		amountBase,
		close,
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

const atRest = (full: Attention, rest: Rest | null): Pick<DealSeen, "attention" | "ownLevel" | "rest"> => ({
	attention: rest ? resting(full) : full,
	ownLevel: full.level,
	rest,
});

const NO_FLAGS: readonly Flag[] = [];

/** Working days after which an answer is old in a stage (null: in none). */
const staleAfterIn = derived("stale after", (set: FlagSettings, stage: string | null): number => valuesOf(staleAnswers, set, stage).days ?? 45);
