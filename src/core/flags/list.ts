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

/** The flags a deal carries: the most severe first, then in the order of RULES. */
export function flagsOf(subject: Subject): readonly Flag[] {
	const flags: Flag[] = [];
	const { absent, flags: set } = subject.company.rules;
	for (const { rule, settings } of inForce(set, subject.stage.name)) {
		if (rule.needs && absent?.has(rule.needs)) continue;
		const fired = rule.fires(subject, settings);
		if (fired) place(flags, new Flag(rule.code, fired));
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
	const { absent, flags: set } = subject.company.rules;
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

/**
 * The flags of a deal of which nothing changed, against norms of which some did: rules that look at those are asked
 * again, the other flags stay. The same list where nothing comes of it.
 */
export function flagsAgain(subject: Subject, before: readonly Flag[], changed: ReadonlySet<NormName>): readonly Flag[] {
	const asked = inForce(subject.company.rules.flags, subject.stage.name).filter(({ rule }) => rule.norms?.some((name) => changed.has(name)));
	if (!asked.length) return before;
	const codes = new Set(asked.map(({ rule }) => rule.code));
	const fresh = new Map(
		asked.flatMap(({ rule, settings }) => {
			const fired = rule.fires(subject, settings);
			return fired ? [[rule.code, new Flag(rule.code, fired)] as const] : [];
		}),
	);
	if (!fresh.size && !before.some((flag) => codes.has(flag.code))) return before;
	const kept = new Map(before.flatMap((flag) => (codes.has(flag.code) ? [] : [[flag.code, flag] as const])));
	const flags: Flag[] = [];
	for (const { code } of RULES) {
		const flag = fresh.get(code) ?? kept.get(code);
		if (flag) place(flags, flag);
	}
	return fitted(flags);
}
