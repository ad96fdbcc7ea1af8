import { type Attention, attentionOf, type Light } from "./attention/attention";
import type { DealFacts, Rules } from "./company";
import { type Contact, contactOf } from "./contact/contact";
import type { DealSeen } from "./dealSeen";
import type { Flag, Norms } from "./flags/rule";
import { staleAfterIn } from "./flags/staleAnswers";
import { type Block, dayEndsIn, NONE } from "./history/columns";
import { type Path, pathOf } from "./history/path";
import type { StageKind } from "./history/stage";
import { questionsOn } from "./qualification/edition";
import { type Qualification, scoreOf } from "./qualification/score";
import type { Day } from "./time/day";
import { type Trail, trailOf } from "./trail/trail";

/** What a closed deal is read from: its block and facts, never the company, which a write takes the place of. */
interface Source {
	readonly block: Block;
	readonly facts: DealFacts;
	readonly rules: Rules;
}

/** What is read of a closed deal at once. */
type Plain = Pick<DealSeen, "deal" | "versionOrdinal" | "status" | "stageIndex" | "amountBase" | "close" | "owner">;

const NO_FLAGS: readonly Flag[] = [];

/**
 * A deal that was won or lost, seen on a day. Four deals in five are, and hardly anybody asks for their paths, answers or
 * contacts: those are worked out when they are asked for.
 */
export class ClosedDeal implements DealSeen {
	readonly deal: number;
	readonly versionOrdinal: number;
	readonly status: StageKind;
	readonly stageIndex: number;
	readonly amountBase: number;
	readonly close: Day;
	readonly owner: number;
	readonly flags = NO_FLAGS;
	readonly stageAge = 0;
	readonly rest = null;
	readonly #source: Source;
	readonly #norms: Norms;
	#path: Path | undefined;
	#trail: Trail | undefined;
	#contact: Contact | undefined;
	#qualification: Qualification | undefined;
	#attention: Attention | undefined;

	constructor(plain: Plain, source: Source, norms: Norms) {
		this.deal = plain.deal;
		this.versionOrdinal = plain.versionOrdinal;
		this.status = plain.status;
		this.stageIndex = plain.stageIndex;
		this.amountBase = plain.amountBase;
		this.close = plain.close;
		this.owner = plain.owner;
		this.#source = source;
		this.#norms = norms;
	}

	/** The same deal against other norms of its day: only its stake moves with them. */
	against(norms: Norms): ClosedDeal {
		const again = new ClosedDeal(this, this.#source, norms);
		again.#path = this.#path;
		again.#trail = this.#trail;
		again.#contact = this.#contact;
		again.#qualification = this.#qualification;
		return again;
	}

	get path(): Path {
		const { block, rules } = this.#source;
		this.#path ??= pathOf(block, dayEndsIn(block, this.deal, this.#norms.day), rules.stages, rules.calendar, this.#norms.day);
		return this.#path;
	}

	get dealAge(): number {
		const { facts, rules } = this.#source;
		return rules.calendar.between(facts.createdDay, this.path.closedDay);
	}

	get trail(): Trail {
		const { block, rules } = this.#source;
		this.#trail ??= trailOf(block, dayEndsIn(block, this.deal, this.#norms.day), rules.fiscalStart);
		return this.#trail;
	}

	get contact(): Contact {
		this.#contact ??= contactOf(this.#source.facts.activities, this.#norms.day);
		return this.#contact;
	}

	/** As it stood in the open stage that it was closed from. */
	get qualification(): Qualification {
		if (!this.#qualification) {
			const { facts, rules } = this.#source;
			const { day } = this.#norms;
			const place = rules.stages[this.path.visits.at(-1)?.stage ?? NONE];
			const staleAfter = staleAfterIn(rules.flags, place?.name ?? null);
			this.#qualification = scoreOf(questionsOn(rules.editions, day), facts.answers, place?.rank ?? 0, day, rules.calendar, staleAfter);
		}
		return this.#qualification;
	}

	get attention(): Attention {
		const { medianAmount, day, attention } = this.#norms;
		this.#attention ??= attentionOf(NO_FLAGS, this.amountBase, medianAmount, this.close, day, this.#source.rules.calendar, attention);
		return this.#attention;
	}

	get ownLevel(): Light {
		return this.attention.level;
	}

	/** all of it, as of a deal that is open */
	toJSON(): DealSeen {
		const { deal, versionOrdinal, status, stageIndex, amountBase, close, owner, path, stageAge, dealAge } = this;
		const { trail, contact, qualification, flags, attention, ownLevel, rest } = this;
		return {
			deal,
			versionOrdinal,
			status,
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
}
