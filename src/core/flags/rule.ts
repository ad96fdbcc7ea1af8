import type { AttentionSettings } from "../attention/settings";
import type { DealFacts, Rules } from "../company";
import type { Contact } from "../contact/contact";
import type { Block } from "../history/columns";
import type { Path } from "../history/path";
import type { Stage } from "../history/stage";
import type { UsualTimes } from "../history/usual";
import type { Employment } from "../people/person";
import type { Qualification } from "../qualification/score";
import type { Day } from "../time/day";
import type { Trail } from "../trail/trail";
import type { DataKind, FlagSettings, SettingSpec, Severity } from "./settings";

/** What every open deal is measured against on a day: computed once a day for the organisation. */
export interface Norms {
	readonly day: Day;
	readonly usual: UsualTimes;
	/** median amount of open deals, base minor units */
	readonly medianAmount: number;
	/** 80th percentile of the same */
	readonly bigAmount: number;
	/** the levels and weights of attention that held on that day */
	readonly attention: AttentionSettings;
}

/** A norm by its name, that rules measure by. */
export type NormName = Exclude<keyof Norms, "day" | "attention">;

/** One open deal seen on one day, before its flags. Days are NO_DAY where there is none. */
export interface Subject {
	readonly rules: Rules;
	/** named by index as owners */
	readonly people: readonly Employment[];
	readonly norms: Norms;
	/** its index in the company, which says its place in its block */
	readonly deal: number;
	readonly facts: DealFacts;
	/** those of its block */
	readonly versions: Block;
	/** row of the version in the deal’s block */
	readonly row: number;
	/** index of the person, or NONE */
	readonly owner: number;
	/** index in CATEGORIES, or NONE */
	readonly category: number;
	readonly seen: Day;
	readonly stage: Stage;
	readonly stageIndex: number;
	/** minor units of the base currency; 0 where the amount is blank */
	readonly amountBase: number;
	readonly amountBlank: boolean;
	readonly close: Day;
	readonly nextStepDay: Day;
	readonly path: Path;
	readonly stageAge: number;
	readonly dealAge: number;
	readonly trail: Trail;
	readonly contact: Contact;
	readonly qualification: Qualification;
}

export type EvidenceValue = string | number | boolean | null | readonly string[];
/** Figures (working days, counts, minor units) and ISO days, by name. */
export type Evidence = Readonly<Record<string, EvidenceValue>>;

/** A flag in figures and in words. */
export interface FlagWords {
	readonly evidence: Evidence;
	/** the chip: `Overdue 4 d`; its days are working days */
	readonly label: string;
	/** the sentence: `close date was 18 Nov, 4 working days ago` */
	readonly reason: string;
	/** what would put it out */
	readonly clears: string;
	/** the task worded to clear it */
	readonly remedy: string;
}

/** What a rule says when it fires; its words are made when they are read. */
export interface Fired {
	readonly severity: Severity;
	readonly words: () => FlagWords;
}

/** What a rule answers when it fires: its severity, the figures it rests on, and its words. */
export const fired = (severity: Severity, words: () => FlagWords): Fired => ({ severity, words });

/**
 * A flag that fires. There are some of them for each open deal of each day that is looked at, and of most only the severity is
 * read: so they hold what they were found in, and their rule says its words again when somebody asks for them.
 */
export class Flag implements FlagWords {
	readonly #rule: Pick<Rule, "code" | "fires">;
	readonly #settings: Settings;
	readonly #of: Subject;

	/** @param of the deal as it is kept: a flag outlives the company it was found in */
	constructor(
		rule: Pick<Rule, "code" | "fires">,
		settings: Settings,
		readonly severity: Severity,
		of: Subject,
	) {
		this.#rule = rule;
		this.#settings = settings;
		this.#of = of;
	}

	/** The same flag of the same deal, as it stands in another block. */
	on(of: Subject): Flag {
		return new Flag(this.#rule, this.#settings, this.severity, of);
	}
	get code(): string {
		return this.#rule.code;
	}
	/** all its words, made each time */
	get words(): FlagWords {
		return (this.#rule.fires(this.#of, this.#settings) as Fired).words();
	}
	get evidence(): Evidence {
		return this.words.evidence;
	}
	get label(): string {
		return this.words.label;
	}
	get reason(): string {
		return this.words.reason;
	}
	get clears(): string {
		return this.words.clears;
	}
	get remedy(): string {
		return this.words.remedy;
	}
}

export type Settings = Readonly<Record<string, number | null>>;

export interface Rule<S extends string = string> {
	readonly code: string;
	/** as a toggle reads: `overdue`, `under-qualified` */
	readonly name: string;
	readonly about: string;
	readonly settings: Readonly<Record<S, SettingSpec>>;
	/** what an organisation must have some of; where it has none at all, the rule would light every deal, and is off */
	readonly needs?: DataKind;
	/** the norms it looks at: when one of them changes, it is asked again of deals that didn't */
	readonly norms?: readonly NormName[];
	/** The flag, or null when the rule doesn't fire or what it needs is missing. */
	fires(subject: Subject, settings: Readonly<Record<S, number | null>>): Fired | null;
}

/** What is set for a stage alone, whatever it is called. */
const ownOf = (whole: FlagSettings[string] | undefined, stage: string | null) =>
	stage !== null && whole?.stages && Object.hasOwn(whole.stages, stage) ? whole.stages[stage] : undefined;

/** A rule's settings in force in a stage: the stage's own over the organisation's over the standards, or null when it is switched off. */
export function settingsOf(rule: Rule, set: FlagSettings, stage: string | null): Settings | null {
	const whole = set[rule.code];
	const own = ownOf(whole, stage);
	if ((own?.on ?? whole?.on) === false) return null;
	return valuesOf(rule, set, stage);
}

/** The same values, whether the rule is on or off. */
export function valuesOf(rule: Rule, set: FlagSettings, stage: string | null): Settings {
	const whole = set[rule.code];
	const own = ownOf(whole, stage);
	const values: Record<string, number | null> = {};
	for (const [name, spec] of Object.entries(rule.settings)) {
		const value = own?.[name] ?? whole?.[name];
		values[name] = typeof value === "number" ? value : spec.standard;
	}
	return values;
}
