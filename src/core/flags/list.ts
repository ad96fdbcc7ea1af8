import { agingDeal } from "./agingDeal";
import { agingStage } from "./agingStage";
import { blankFields } from "./blankFields";
import { noNextStep } from "./noNextStep";
import { overdue } from "./overdue";
import { replyOwed } from "./replyOwed";
import { type Flag, type Rule, type Subject, settingsOf } from "./rule";
import { slipped } from "./slipped";
import { stalled } from "./stalled";
import { underQualified } from "./underQualified";

/** Every rule, in the order in which flags are listed. A new rule is one file and one line here. */
export const RULES: readonly Rule[] = [overdue, replyOwed, slipped, stalled, agingStage, agingDeal, noNextStep, underQualified, blankFields];

/** The flags a deal carries: the most severe first, then in the order of RULES. */
export function flagsOf(subject: Subject): Flag[] {
	const flags: Flag[] = [];
	for (const rule of RULES) {
		const settings = settingsOf(rule, subject.company.rules.flags);
		const fired = settings && rule.fires(subject, settings);
		if (fired) flags.push({ code: rule.code, ...fired });
	}
	return flags.sort((a, b) => b.severity - a.severity);
}
