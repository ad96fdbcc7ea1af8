import { byCount } from "@/core/words/grammar";
import type { OutlookView } from "../server/readOutlook";
import { periodsWords } from "./periodsWords";
import { percent } from "./ShareBar";

/** The chance of the target in words: nothing that was drawn is certain. */
export function targetChance({ chanceOfTarget, won, target }: Pick<OutlookView, "chanceOfTarget" | "won" | "target">): string {
	if (target !== null && won >= target) return "reached";
	if (chanceOfTarget === null) return "–";
	return chanceOfTarget < 0.01 ? "under 1%" : chanceOfTarget > 0.99 ? "over 99%" : percent(chanceOfTarget);
}

const JUDGED_FROM = 5;

/** How often such a band held what came, and what follows: stands wherever the band does. */
export function bandWords({ periods, narrow }: OutlookView["record"]): string {
	if (!periods.length) return "There are too few past periods to say how often such a band held the result.";
	const inside = periods.filter((one) => one.inside).length;
	const held = `At this point of the last ${periodsWords(periods)} the result was inside the band ${byCount(inside, "once", `${inside} times`)}; 8 of 10 are meant.`;
	if (narrow) return `${held} The band has been too narrow here.`;
	return periods.length < JUDGED_FROM ? `${held} These are too few to judge the band by.` : held;
}
