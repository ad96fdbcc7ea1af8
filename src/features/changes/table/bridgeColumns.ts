import { fullMoney, shortMoney } from "@/core/money/words";
import { plural } from "@/core/words/grammar";
import type { ChangedStep } from "../server/changesView";

/** A step of the bridge as a bar between two levels of the running total. */
export interface BridgeColumn {
	readonly kind: string;
	readonly name: string;
	readonly range: [number, number];
	readonly label: string;
	readonly tone: "end" | "in" | "out" | "won";
	/** the level the next column starts from: the range's lower end, or its upper one */
	readonly endsLow: boolean;
	/** the whole of it, as a sentence */
	readonly words: string;
}

/** Each step as a range from where the running total stood to where it went. */
export function bridgeColumns(steps: readonly ChangedStep[], currency: string): BridgeColumn[] {
	let level = 0;
	return steps.map((step) => {
		const end = step.kind === "opening" || step.kind === "closing";
		const next = end ? step.amount : level + (step.leaves ? -step.amount : step.amount);
		const range: [number, number] = end ? [0, step.amount] : [Math.min(level, next), Math.max(level, next)];
		level = next;
		const sign = end ? "" : step.leaves ? "−" : "+";
		return {
			kind: step.kind,
			name: step.name,
			range,
			endsLow: step.leaves,
			label: `${sign}${shortMoney(step.amount, currency)}`,
			tone: end ? "end" : step.kind === "won" ? "won" : step.leaves ? "out" : "in",
			words: `${step.name}: ${sign}${fullMoney(step.amount, currency)}, ${plural(step.count, "deal")}`,
		};
	});
}
