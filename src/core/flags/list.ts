import { derived } from "../derive";
import { fitted } from "../fitted";
import { agingDeal } from "./agingDeal";
import { agingStage } from "./agingStage";
import { amountCut } from "./amountCut";
import { blankFields } from "./blankFields";
import { goneQuiet } from "./goneQuiet";
import { loneContact } from "./loneContact";
import { noNextStep } from "./noNextStep";
import { noSignatory } from "./noSignatory";
import { overdue } from "./overdue";
import { quoteLapsing } from "./quoteLapsing";
import { replyOwed } from "./replyOwed";
import { Flag, type NormName, type Rule, type Settings, type Subject, settingsOf } from "./rule";
import type { FlagSettings } from "./settings";
import { shakyCommit } from "./shakyCommit";
import { shortRunway } from "./shortRunway";
import { slipped } from "./slipped";
import { stageBehind } from "./stageBehind";
import { staleAnswers } from "./staleAnswers";
import { stalled } from "./stalled";
import { steppedBack } from "./steppedBack";
import { underQualified } from "./underQualified";
import { unowned } from "./unowned";

/** Every rule, in the order in which flags are listed. A new rule is one file and one line here. */
export const RULES: readonly Rule[] = [
	overdue,
	replyOwed,
	unowned,
	shakyCommit,
	slipped,
	stalled,
	shortRunway,
	agingStage,
	agingDeal,
	noNextStep,
	quoteLapsing,
	underQualified,
	noSignatory,
	loneContact,
	goneQuiet,
	amountCut,
	steppedBack,
	stageBehind,
	staleAnswers,
	blankFields,
];

type InForce = readonly { readonly rule: Rule; readonly settings: Settings; readonly bit: number }[];

/** The rules that are on in a stage, with their settings. */
const inForce = derived(
	"rules in force",
	(set: FlagSettings, stage: string): InForce =>
		RULES.flatMap((rule, i) => {
			const settings = settingsOf(rule, set, stage);
			return settings ? [{ rule, settings, bit: 1 << i }] : [];
		}),
);

/**
 * The flags a deal carries: the most severe first, then in the order of RULES. They hold on to `lasting`, the same deal in
 * the form in which it is kept, and ask it for their words.
 */
export function flagsOf(subject: Subject, lasting: Subject): readonly Flag[] {
	const flags: Flag[] = [];
	const { absent, flags: set } = subject.rules;
	for (const { rule, settings } of inForce(set, subject.stage.name)) {
		if (rule.needs && absent?.has(rule.needs)) continue;
		const fired = rule.fires(subject, settings);
		if (fired) place(flags, new Flag(rule, settings, fired.severity, lasting));
	}
	return flags.length ? fitted(flags) : NONE;
}
const NONE: readonly Flag[] = [];

/** What fits the bits of a number that `firesOf` answers. */
const MOST_RULES = 31;
if (RULES.length > MOST_RULES) throw new Error(`firesOf has a bit for each of ${MOST_RULES} rules`);

/** Which rules fire, a bit each in the order of RULES, the first one lowest. */
export function firesOf(subject: Subject): number {
	let bits = 0;
	const { absent, flags: set } = subject.rules;
	const rules = inForce(set, subject.stage.name);
	for (let i = 0; i < rules.length; i++) {
		const { rule, settings, bit } = rules[i] as InForce[number];
		if ((!rule.needs || !absent?.has(rule.needs)) && rule.fires(subject, settings)) bits |= bit;
	}
	return bits;
}

function place(flags: Flag[], flag: Flag): void {
	let at = flags.length;
	while (at > 0 && (flags[at - 1] as Flag).severity < flag.severity) at--;
	flags.splice(at, 0, flag);
}

/** The rules that are on in a stage and look at a norm. */
const inForceBy = derived("rules in force by a norm", (set: FlagSettings, stage: string, norm: NormName) =>
	inForce(set, stage).filter(({ rule }) => rule.norms?.includes(norm)),
);

/**
 * The flags of a deal of which nothing changed but a norm that it is measured against: rules that look at that are asked
 * again, the other flags stay. The same list where nothing comes of it.
 */
export function flagsAgain(subject: Subject, before: readonly Flag[], norm: NormName): readonly Flag[] {
	const asked = inForceBy(subject.rules.flags, subject.stage.name, norm);
	const fresh = asked.flatMap(({ rule, settings }) => {
		const fired = rule.fires(subject, settings);
		return fired ? [new Flag(rule, settings, fired.severity, subject)] : [];
	});
	const kept = before.filter(({ code }) => !asked.some(({ rule }) => rule.code === code));
	if (!fresh.length && kept.length === before.length) return before;
	const flags = RULES.flatMap(({ code }) => [...fresh, ...kept].find((one) => one.code === code) ?? []);
	return fitted(flags.sort((a, b) => b.severity - a.severity));
}
