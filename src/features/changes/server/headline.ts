import type { Bridge, Step } from "@/core/bridge/bridge";
import { takesAway } from "@/core/bridge/step";
import { stepOf } from "@/core/bridge/steps";
import { byText } from "@/core/deal/order";
import { shortMoney } from "@/core/money/words";
import { plural } from "@/core/words/grammar";

/** The finding in one sentence, and what caused most of it in another. `span` is the time between, in words; `nameOf` gives a deal's name by its index. */
export function headline(bridge: Bridge, currency: string, span: string, nameOf: (deal: number) => string): { finding: string; causes: string } {
	const money = (amount: number) => shortMoney(Math.abs(amount), currency);
	const change = bridge.closing.amount - bridge.opening.amount;
	const moved = bridge.steps.reduce((sum, step) => sum + step.amount, 0);
	const finding =
		change === 0
			? `Open pipeline is unchanged, at ${money(bridge.closing.amount)}, after ${span}`
			: moved < bridge.opening.amount * LITTLE
				? `Little changed in ${span}: open pipeline ${change > 0 ? "grew" : "fell"} by ${money(change)}, to ${money(bridge.closing.amount)}`
				: `Open pipeline ${change > 0 ? "grew" : "fell"} by ${money(change)} in ${span}`;
	const largest = (steps: readonly Step[]) => steps.reduce<Step | null>((best, step) => (step.amount > (best?.amount ?? 0) ? step : best), null);
	const out = largest(bridge.steps.filter((step) => takesAway(stepOf(step.kind))));
	const into = largest(bridge.steps.filter((step) => !takesAway(stepOf(step.kind))));
	const say = (step: Step) => `${stepOf(step.kind).words.told}, ${money(step.amount)} in ${plural(step.deals.length, "deal")}${few(step, nameOf)}`;
	if (!out && !into) return { finding, causes: "Nothing changed between the two days." };
	const parts = [out ? `Largest outflow: ${say(out)}.` : "No outflow.", into ? `Largest inflow: ${say(into)}.` : "No inflow."];
	return { finding, causes: `${parts.join(" ")}${concentration(out, nameOf)}` };
}

/** Below this share of what was open all ways in, out, up and down together are little. */
const LITTLE = 0.02;

/** The deals of a step by name, the largest first, where there are no more than two. */
function few(step: Step, nameOf: (deal: number) => string): string {
	return step.deals.length <= 2
		? ` (${largestOf(step, nameOf)
				.map((deal) => nameOf(deal.deal))
				.join("; ")})`
		: "";
}

const largestOf = (step: Step, nameOf: (deal: number) => string) =>
	[...step.deals].sort((a, b) => b.amount - a.amount || byText(nameOf(a.deal), nameOf(b.deal)));

/** Names one or two deals that make up most of a step that has more. */
function concentration(step: Step | null, nameOf: (deal: number) => string): string {
	if (!step || step.deals.length < 3) return "";
	const sorted = largestOf(step, nameOf);
	const [, many] = stepOf(step.kind).words.noun;
	for (const [n, word] of [
		[1, "One deal makes"],
		[2, "Two deals make"],
	] as const) {
		const most = sorted.slice(0, n);
		const share = most.reduce((sum, deal) => sum + deal.amount, 0) / step.amount;
		if (share < 0.6) continue;
		return ` ${word} up ${Math.round(share * 100)}% of the ${many}: ${most.map((deal) => nameOf(deal.deal)).join("; ")}.`;
	}
	return "";
}
