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
import { type Flag, type Rule, type Subject, settingsOf } from "./rule";
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

/** The flags a deal carries: the most severe first, then in the order of RULES. */
export function flagsOf(subject: Subject): Flag[] {
	const flags: Flag[] = [];
	for (const rule of RULES) {
		const settings = settingsOf(rule, subject.company.rules.flags, subject.stage.name);
		const fired = settings && rule.fires(subject, settings);
		if (fired) flags.push({ code: rule.code, ...fired });
	}
	return flags.sort((a, b) => b.severity - a.severity);
}
