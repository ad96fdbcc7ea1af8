import { plural } from "@/core/words/grammar";
import type { Input, Result } from "@/ui/run";

export type Preview = Result<"people.previewHandOver">;
export type Taker = Preview["people"][number];

/** What is chosen so far: to whom each thing goes. An empty string: it stays. */
export interface Choices {
	readonly lastDay: string;
	readonly endWays: boolean;
	readonly deals: Readonly<Record<string, string>>;
	/** besides a person: WITH_DEAL */
	readonly tasks: Readonly<Record<string, string>>;
	/** besides a person: ENDS */
	readonly plans: Readonly<Record<string, string>>;
	readonly targets: { readonly what: "stay" | "go" | "end"; readonly from: string; readonly to: string };
}

export const WITH_DEAL = "with its deal";
export const ENDS = "ends";

/** How a dialog begins: nothing goes anywhere yet, but tasks go with their deals, and rounds over the person end with them. */
export const startOf = (preview: Preview): Choices => ({
	lastDay: preview.lastDay ?? "",
	endWays: false,
	deals: {},
	tasks: Object.fromEntries(preview.tasks.map((task) => [task.id, task.dealId && preview.deals.some(({ id }) => id === task.dealId) ? WITH_DEAL : ""])),
	plans: {},
	targets: { what: "stay", from: preview.today, to: "" },
});

/** To whom a task goes: empty where it stays. */
export function takerOf(choices: Choices, task: Preview["tasks"][number]): string {
	const chosen = choices.tasks[task.id] ?? "";
	return chosen === WITH_DEAL ? (choices.deals[task.dealId ?? ""] ?? "") : chosen;
}

/** The command's input. */
export function inputOf(from: string, preview: Preview, choices: Choices): Input<"people.handOver"> {
	const { lastDay, endWays, targets } = choices;
	const given = (list: readonly { readonly id: string; readonly to: string }[]) => list.filter(({ to }) => to !== "");
	return {
		from,
		...(preview.mayEnd && lastDay !== (preview.lastDay ?? "") ? { lastDay: lastDay || null } : {}),
		deals: given(preview.deals.map(({ id }) => ({ id, to: choices.deals[id] ?? "" }))),
		tasks: given(preview.tasks.map((task) => ({ id: task.id, to: takerOf(choices, task) }))),
		plans: given(preview.plans.map(({ id }) => ({ id, to: choices.plans[id] ?? "" }))).map(({ id, to }) => ({ id, to: to === ENDS ? null : to })),
		targets: targets.what === "stay" ? null : { from: targets.from, to: targets.what === "go" ? targets.to : null },
		endWays: preview.mayEnd && endWays,
	};
}

/** What is missing before it can be done; null: nothing. */
export function missing(preview: Preview, choices: Choices): string | null {
	const input = inputOf("", preview, choices);
	if (choices.targets.what === "go" && !choices.targets.to) return "Choose who takes over the targets.";
	if (choices.targets.what !== "stay" && !choices.targets.from) return "Choose the day from which the targets change.";
	const some = input.deals?.length || input.tasks?.length || input.plans?.length || input.targets || input.endWays || input.lastDay !== undefined;
	return some ? null : "Nothing chosen yet.";
}

/** What would be done, in one sentence for each kind of thing. */
export function wordsOf(preview: Preview, choices: Choices): string[] {
	const input = inputOf("", preview, choices);
	const of = (n: number, all: number, name: string) =>
		all ? [n === all ? `${plural(n, name)} of ${all}` : `${plural(n, name)} of ${all}, ${all - n} stay`] : [];
	return [
		...(input.lastDay === undefined ? [] : [input.lastDay === null ? "no last day" : `last day ${input.lastDay}`]),
		...of(input.deals?.length ?? 0, preview.deals.length, "deal"),
		...of(input.tasks?.length ?? 0, preview.tasks.length, "task"),
		...of(input.plans?.length ?? 0, preview.plans.length, "planned round"),
		...(input.targets ? [`targets ${input.targets.to ? "go on" : "end"} from ${input.targets.from}`] : []),
		...(input.endWays ? ["access ends now"] : []),
	];
}
