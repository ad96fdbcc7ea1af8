import { type Attention, attentionOf, type Light } from "./attention/attention";
import type { Rest } from "./attention/rest";
import type { DealFacts, Rules } from "./company";
import { type Contact, contactOf } from "./contact/contact";
import type { DealSeen } from "./dealSeen";
import type { Flag, Norms } from "./flags/rule";
import { staleAfterIn } from "./flags/staleAnswers";
import { type Block, dayEndsIn, firstRow, NONE } from "./history/columns";
import { closedDayOf, type Path, pathOf } from "./history/path";
import type { StageKind } from "./history/stage";
import { questionsOn } from "./qualification/edition";
import { type Qualification, scoreOf } from "./qualification/score";
import type { Day } from "./time/day";
import { type Trail, trailOf } from "./trail/trail";

/** What is worked out of a closed deal when it is asked for. */
interface Parts {
	path?: Path;
	trail?: Trail;
	contact?: Contact;
	qualification?: Qualification;
	attention?: Attention;
}

const NO_FLAGS: readonly Flag[] = [];

/**
 * A deal that was won or lost, seen on a day. Four deals in five are, and hardly anybody asks for their paths, answers or
 * contacts: those are worked out when they are asked for. It is read from its block and facts, never from the company,
 * which a write takes the place of, and holds as little as it can, since there are many.
 */
export class ClosedDeal implements DealSeen {
	readonly #block: Block;
	readonly #facts: DealFacts;
	readonly #rules: Rules;
	readonly #norms: Norms;
	#parts: Parts | undefined;

	constructor(
		readonly deal: number,
		readonly versionOrdinal: number,
		readonly status: StageKind,
		readonly amountBase: number,
		block: Block,
		facts: DealFacts,
		rules: Rules,
		norms: Norms,
	) {
		this.#block = block;
		this.#facts = facts;
		this.#rules = rules;
		this.#norms = norms;
	}

	/** The same deal against other norms of its day: only its stake moves with them. */
	against(norms: Norms): ClosedDeal {
		const again = new ClosedDeal(this.deal, this.versionOrdinal, this.status, this.amountBase, this.#block, this.#facts, this.#rules, norms);
		if (this.#parts) again.#parts = { ...this.#parts, attention: undefined };
		return again;
	}

	get #row(): number {
		return firstRow(this.#block, this.deal) + this.versionOrdinal;
	}
	get stageIndex(): number {
		return this.#block.stage[this.#row] as number;
	}
	get close(): Day {
		return this.#block.close[this.#row] as Day;
	}
	get owner(): number {
		return this.#block.owner[this.#row] as number;
	}
	get flags(): readonly Flag[] {
		return NO_FLAGS;
	}
	get stageAge(): number {
		return 0;
	}
	get rest(): Rest | null {
		return null;
	}

	get #ends(): number[] {
		return dayEndsIn(this.#block, this.deal, this.#norms.day);
	}
	get #kept(): Parts {
		this.#parts ??= {};
		return this.#parts;
	}

	get closedDay(): Day {
		return closedDayOf(this.#block, this.#rules.stages, firstRow(this.#block, this.deal), this.#row);
	}

	get path(): Path {
		this.#kept.path ??= pathOf(this.#block, this.#ends, this.#rules.stages, this.#rules.calendar, this.#norms.day);
		return this.#kept.path;
	}

	get dealAge(): number {
		return this.#rules.calendar.between(this.#facts.createdDay, this.closedDay);
	}

	get trail(): Trail {
		this.#kept.trail ??= trailOf(this.#block, this.#ends, this.#rules.fiscal);
		return this.#kept.trail;
	}

	get contact(): Contact {
		this.#kept.contact ??= contactOf(this.#facts.activities, this.#norms.day);
		return this.#kept.contact;
	}

	/** As it stood in the open stage that it was closed from. */
	get qualification(): Qualification {
		this.#kept.qualification ??= this.#qualified();
		return this.#kept.qualification;
	}

	#qualified(): Qualification {
		const { editions, stages, calendar, flags } = this.#rules;
		const { day } = this.#norms;
		const place = stages[this.path.visits.at(-1)?.stage ?? NONE];
		return scoreOf(questionsOn(editions, day), this.#facts.answers, place?.rank ?? 0, day, calendar, staleAfterIn(flags, place?.name ?? null));
	}

	get attention(): Attention {
		const { medianAmount, day, attention } = this.#norms;
		this.#kept.attention ??= attentionOf(NO_FLAGS, this.amountBase, medianAmount, this.close, day, this.#rules.calendar, attention);
		return this.#kept.attention;
	}

	get ownLevel(): Light {
		return this.attention.level;
	}

	/** all of it, as of a deal that is open */
	toJSON(): DealSeen {
		const { deal, versionOrdinal, status, stageIndex, amountBase, close, closedDay, owner, path, stageAge, dealAge } = this;
		const { trail, contact, qualification, flags, attention, ownLevel, rest } = this;
		return {
			deal,
			versionOrdinal,
			status,
			stageIndex,
			amountBase,
			close,
			closedDay,
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
}
