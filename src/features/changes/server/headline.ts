import { type Bridge, ENTERING, LEAVING, type Step } from "@/core/bridge/bridge";
import { currencySign, shortAmount } from "@/core/money/words";
import { plural } from "@/core/time/words";

const VERBS: Readonly<Record<string, [plural: string, noun: string]>> = {
	"pushed-out": ["pushed out", "push"],
	"moved-earlier": ["moved earlier", "move"],
	"handed-out": ["handed out", "hand-over"],
	removed: ["removed", "removal"],
	won: ["won", "win"],
	lost: ["lost", "loss"],
	shrank: ["cut", "cut"],
	new: ["new", "arrival"],
	reopened: ["reopened", "return"],
	"handed-in": ["handed in", "hand-over"],
	"rolled-in": ["rolled in", "roll-in"],
	"pulled-in": ["pulled in", "pull-in"],
	grew: ["grown", "increase"],
};

/** The finding in one sentence, and what caused most of it in another. `span` is the time between, in words; `nameOf` gives a deal's name by its index. */
export function headline(bridge: Bridge, currency: string, span: string, nameOf: (deal: number) => string): { finding: string; causes: string } {
	const money = (amount: number) => `${currencySign(currency)}${shortAmount(Math.abs(amount), currency)}`;
	const change = bridge.closing.amount - bridge.opening.amount;
	const finding =
		change === 0
			? `Open pipeline stands where it stood, at ${money(bridge.closing.amount)}, after ${span}`
			: `Open pipeline ${change > 0 ? "grew" : "fell"} by ${money(change)} in ${span}`;
	const leaving = (step: Step) => step.kind === "shrank" || (LEAVING as readonly string[]).includes(step.kind);
	const largest = (steps: readonly Step[]) => steps.reduce<Step | null>((best, step) => (step.amount > (best?.amount ?? 0) ? step : best), null);
	const out = largest(bridge.steps.filter(leaving));
	const into = largest(bridge.steps.filter((step) => (ENTERING as readonly string[]).includes(step.kind) || step.kind === "grew"));
	const say = (step: Step) => `${VERBS[step.kind]?.[0]}, ${money(step.amount)} in ${plural(step.deals.length, "deal")}${few(step, nameOf)}`;
	if (!out && !into) return { finding, causes: "Nothing moved between the two days." };
	const parts = [out ? `Largest way out: ${say(out)}.` : "Nothing went out.", into ? `Largest way in: ${say(into)}.` : "Nothing came in."];
	return { finding, causes: `${parts.join(" ")}${concentration(out, nameOf)}` };
}

/** The deals of a step by name, the largest first, where there are no more than two. */
function few(step: Step, nameOf: (deal: number) => string): string {
	return step.deals.length <= 2
		? ` (${largestOf(step)
				.map((deal) => nameOf(deal.deal))
				.join("; ")})`
		: "";
}

const largestOf = (step: Step) => [...step.deals].sort((a, b) => b.amount - a.amount || a.deal - b.deal);

/** Names one or two deals that make up most of a step that has more. */
function concentration(step: Step | null, nameOf: (deal: number) => string): string {
	if (!step || step.deals.length < 3) return "";
	const sorted = largestOf(step);
	const noun = VERBS[step.kind]?.[1] ?? "step";
	for (const [n, word] of [
		[1, "One deal makes"],
		[2, "Two deals make"],
	] as const) {
		const most = sorted.slice(0, n);
		const share = most.reduce((sum, deal) => sum + deal.amount, 0) / step.amount;
		if (share < 0.6) continue;
		const many = noun === "loss" ? "losses" : noun === "push" ? "pushes" : `${noun}s`;
		return ` ${word} up ${Math.round(share * 100)}% of the ${many}: ${most.map((deal) => nameOf(deal.deal)).join("; ")}.`;
	}
	return "";
}
