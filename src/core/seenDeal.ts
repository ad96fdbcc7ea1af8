import { type Attention, attentionOf, type Light } from "./attention/attention";
import { type Rest, resting, restOn } from "./attention/rest";
import type { Company, DealBlock, DealFacts, Rules } from "./company";
import { type Contact, contactOf } from "./contact/contact";
import type { DealSeen } from "./dealSeen";
import { flagsAgain } from "./flags/list";
import type { Flag, NormName, Norms, Subject } from "./flags/rule";
import { staleAfterIn } from "./flags/staleAnswers";
import { type Block, dayEndsIn, firstRow, NONE } from "./history/columns";
import { closedDayOf, type Path, pathOf } from "./history/path";
import type { Stage } from "./history/stage";
import type { Employment } from "./people/person";
import { questionsOn } from "./qualification/edition";
import { type Qualification, scoreOf } from "./qualification/score";
import { recent } from "./recent";
import type { Day } from "./time/day";
import { type Trail, trailOf } from "./trail/trail";

/** What deals are seen by: the rules, the people, and the norms of a day. */
export interface Sight extends Pick<Company, "rules" | "people"> {
	readonly norms: Norms;
}

const pathIn = recent(({ versions, ends, rules: { stages, calendar }, seen }: SeenDeal) => pathOf(versions, ends, stages, calendar, seen));
const trailIn = recent(({ versions, ends, rules: { fiscal } }: SeenDeal) => trailOf(versions, ends, fiscal));
const contactIn = recent(({ facts: { activities }, seen }: SeenDeal) => contactOf(activities, seen));
/** Of a closed deal as it stood in the open stage that it was closed from. */
const qualificationIn = recent(({ rules: { editions, stages, calendar, flags }, facts, path, seen }: SeenDeal) => {
	const stage = stages[path.visits.at(-1)?.stage ?? NONE];
	return scoreOf(questionsOn(editions, seen), facts.answers, stage?.rank ?? 0, seen, calendar, staleAfterIn(flags, stage?.name ?? null));
});

const NO_FLAGS: readonly Flag[] = [];

/**
 * A deal seen on a day, and what rules look at. There are as many of them as deals for each day that is looked at, so they
 * hold as little as they can: where they stand in their block and what they are seen by. Paths, trails, contact and
 * answers are read again from the block’s columns whenever they are asked for. They never hold the company, which
 * a write takes the place of.
 */
export abstract class SeenDeal implements DealSeen, Subject {
	abstract readonly flags: readonly Flag[];
	abstract readonly attention: Attention;
	abstract readonly ownLevel: Light;
	abstract readonly rest: Rest | null;
	abstract readonly stageAge: number;
	abstract readonly dealAge: number;
	readonly #block: DealBlock;
	readonly #sight: Sight;

	constructor(
		readonly deal: number,
		readonly versionOrdinal: number,
		readonly amountBase: number,
		block: DealBlock,
		sight: Sight,
	) {
		this.#block = block;
		this.#sight = sight;
	}

	/** The same deal by other norms of its day, of which one differs: the same object where nothing comes of it. */
	abstract by(sight: Sight, norm: NormName): SeenDeal;

	/** The same deal in a block that took the place of its own, and in which nothing of it changed. */
	abstract movedTo(block: DealBlock, sight: Sight): SeenDeal;

	protected get block(): DealBlock {
		return this.#block;
	}
	get rules(): Rules {
		return this.#sight.rules;
	}
	get people(): readonly Employment[] {
		return this.#sight.people;
	}
	get norms(): Norms {
		return this.#sight.norms;
	}
	get seen(): Day {
		return this.#sight.norms.day;
	}
	get facts(): DealFacts {
		return this.#block.facts[this.deal - this.#block.first] as DealFacts;
	}
	get versions(): Block {
		return this.#block.versions;
	}
	get row(): number {
		return firstRow(this.versions, this.deal) + this.versionOrdinal;
	}
	/** the rows of its day-ends up to the day */
	get ends(): number[] {
		return dayEndsIn(this.versions, this.deal, this.seen);
	}
	get stageIndex(): number {
		return this.versions.stage[this.row] as number;
	}
	get stage(): Stage {
		return this.rules.stages[this.stageIndex] as Stage;
	}
	get status(): Stage["kind"] {
		return this.stage.kind;
	}
	get close(): Day {
		return this.versions.close[this.row] as Day;
	}
	get closedDay(): Day {
		return closedDayOf(this.versions, this.rules.stages, firstRow(this.versions, this.deal), this.row);
	}
	get owner(): number {
		return this.versions.owner[this.row] as number;
	}
	get category(): number {
		return this.versions.category[this.row] as number;
	}
	get amountBlank(): boolean {
		return Number.isNaN(this.versions.amount[this.row]);
	}
	get nextStepDay(): Day {
		return this.versions.nextStepDay[this.row] as Day;
	}
	get path(): Path {
		return pathIn(this);
	}
	get trail(): Trail {
		return trailIn(this);
	}
	get contact(): Contact {
		return contactIn(this);
	}
	get qualification(): Qualification {
		return qualificationIn(this);
	}

	/** all that is said of it */
	toJSON(): DealSeen {
		const { deal, versionOrdinal, status, stageIndex, amountBase, close, closedDay, owner, path, stageAge, dealAge } = this;
		const { trail, contact, qualification, flags, attention, ownLevel, rest } = this;
		return {
			...{ deal, versionOrdinal, status, stageIndex, amountBase, close, closedDay, owner, path, stageAge, dealAge },
			...{ trail, contact, qualification, flags, attention, ownLevel, rest },
		};
	}

	/** how much it needs the manager with some flags, rests aside */
	protected fullAttention(flags: readonly Flag[]): Attention {
		const { medianAmount, day, attention } = this.norms;
		return attentionOf(flags, this.amountBase, medianAmount, this.close, day, this.rules.calendar, attention);
	}
}

/** A deal that was won or lost. */
export class ClosedDeal extends SeenDeal {
	by(sight: Sight, norm: NormName): SeenDeal {
		return norm === "medianAmount" ? this.movedTo(this.block, sight) : this;
	}
	movedTo(block: DealBlock, sight: Sight): SeenDeal {
		return new ClosedDeal(this.deal, this.versionOrdinal, this.amountBase, block, sight);
	}
	get flags(): readonly Flag[] {
		return NO_FLAGS;
	}
	get attention(): Attention {
		return this.fullAttention(NO_FLAGS);
	}
	get ownLevel(): Light {
		return this.attention.level;
	}
	get rest(): Rest | null {
		return null;
	}
	get stageAge(): number {
		return 0;
	}
	get dealAge(): number {
		return this.rules.calendar.between(this.facts.createdDay, this.closedDay);
	}
}

/** A deal that is open, with its flags. */
export class OpenDeal extends SeenDeal {
	readonly flags: readonly Flag[];
	readonly rest: Rest | null;
	readonly #full: Attention;

	/** @param flagsOf finds its flags, which hold on to it */
	constructor(
		deal: number,
		versionOrdinal: number,
		amountBase: number,
		block: DealBlock,
		sight: Sight,
		readonly stageAge: number,
		flagsOf: (self: Subject) => readonly Flag[],
	) {
		super(deal, versionOrdinal, amountBase, block, sight);
		this.flags = flagsOf(this);
		this.rest = restOn(this.facts.rests, this.flags, this.seen);
		this.#full = this.fullAttention(this.flags);
	}

	by(sight: Sight, norm: NormName): SeenDeal {
		const { deal, versionOrdinal, amountBase, block, stageAge, flags } = this;
		const other = new OpenDeal(deal, versionOrdinal, amountBase, block, sight, stageAge, (self) => flagsAgain(self, flags, norm));
		return other.flags === flags && norm !== "medianAmount" ? this : other;
	}
	movedTo(block: DealBlock, sight: Sight): SeenDeal {
		const { deal, versionOrdinal, amountBase, stageAge, flags } = this;
		return new OpenDeal(deal, versionOrdinal, amountBase, block, sight, stageAge, (self) => flags.map((flag) => flag.on(self)));
	}
	get attention(): Attention {
		return this.rest ? resting(this.#full) : this.#full;
	}
	get ownLevel(): Light {
		return this.#full.level;
	}
	get dealAge(): number {
		return this.rules.calendar.between(this.facts.createdDay, this.seen);
	}
}
