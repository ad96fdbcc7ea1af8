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
import { Flag, type Rule, type Settings, type Subject, settingsOf } from "./rule";
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

type InForce = readonly { readonly rule: Rule; readonly settings: Settings }[];
const kept = new WeakMap<FlagSettings, Map<string, InForce>>();

/** The rules that are on in a stage, with their settings. */
function inForce(set: FlagSettings, stage: string): InForce {
	const stages = kept.get(set) ?? new Map<string, InForce>();
	kept.set(set, stages);
	const known = stages.get(stage);
	if (known) return known;
	const rules = RULES.flatMap((rule) => {
		const settings = settingsOf(rule, set, stage);
		return settings ? [{ rule, settings }] : [];
	});
	stages.set(stage, rules);
	return rules;
}

/** The flags a deal carries: the most severe first, then in the order of RULES. */
export function flagsOf(subject: Subject): Flag[] {
	const flags: Flag[] = [];
	for (const { rule, settings } of inForce(subject.company.rules.flags, subject.stage.name)) {
		const fired = rule.fires(subject, settings);
		if (!fired) continue;
		let place = flags.length;
		while (place > 0 && (flags[place - 1] as Flag).severity < fired.severity) place--;
		flags.splice(place, 0, new Flag(rule.code, fired));
	}
	return flags;
}
