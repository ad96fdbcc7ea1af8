import { byCount } from "@/core/words/grammar";
import type { Give } from "@/features/deals/ui/slots";
import type { Result } from "@/ui/run";
import { fillIn } from "../table/fill";
import type { Importance } from "../table/importance";

export type Draft = Result<"tasks.draft">;

export const WAYS = [
	{ key: "one", label: "Same text for all" },
	{ key: "each", label: "Each deal’s own remedy" },
	{ key: "kit", label: "A kit" },
] as const;
export type Way = (typeof WAYS)[number]["key"];

/** What all tasks that are given together have alike. */
export interface Options {
	readonly importance: Importance;
	readonly asks: string | null;
	readonly checklist: readonly string[];
	readonly repeat: string | null;
	readonly remindOn: string | null;
	readonly remindUnlessAnswered: boolean;
}

/** What was chosen and written so far. */
export interface Giving {
	readonly way: Way;
	readonly title: string;
	readonly flags: readonly string[];
	readonly due: string;
	/** `owner`, `person:id` or `team:name` */
	readonly to: string;
	readonly kit: string;
	readonly options: Options;
	/** by line: what was changed of it alone */
	readonly edits: Readonly<Record<string, { readonly title?: string; readonly dueOn?: string; readonly left?: boolean }>>;
}

/** A task as it would be given. */
export interface Line {
	readonly key: string;
	readonly dealId: string | null;
	readonly deal: string;
	readonly close: string | null;
	readonly title: string;
	readonly dueOn: string;
	readonly who: string;
	readonly assigneeId: string | null;
	readonly team: string | null;
	readonly flags: readonly string[];
	readonly options: Options;
	/** left out by hand */
	readonly left: boolean;
}

const USUAL: Options = { importance: "usual", asks: null, checklist: [], repeat: null, remindOn: null, remindUnlessAnswered: false };

/** Before the deals were looked at. */
export const NOTHING: Draft = { deals: [], people: [], teams: [], kits: [], kinds: [], days: [], due: "", periodCloses: "", today: "" };

/** What a dialog begins with: the day and the kit are the draft’s, until others are chosen; several deals without a text each have their own remedy. */
export const startOf = ({ title = "", flags = [], dealIds }: Give): Giving => ({
	way: dealIds.length > 1 && !title ? "each" : "one",
	title,
	flags,
	due: "",
	to: "owner",
	kit: "",
	options: USUAL,
	edits: {},
});

/** The tasks that what was chosen comes to, in the order of the deals. */
export function linesOf(draft: Draft, giving: Giving): Line[] {
	const lines = draft.deals.length ? draft.deals.flatMap((deal) => (deal.open ? ofDeal(draft, giving, deal) : [])) : [alone(draft, giving)];
	return lines.map((line) => {
		const edit = giving.edits[line.key];
		return edit ? { ...line, ...edit, left: edit.left ?? false } : line;
	});
}

function whoOf(draft: Draft, to: string, owner: string | null): Pick<Line, "who" | "assigneeId" | "team"> {
	if (to.startsWith("team:")) return { who: `anyone of ${to.slice(5)}`, assigneeId: null, team: to.slice(5) };
	if (to.startsWith("person:")) return { who: draft.people.find(({ id }) => id === to.slice(7))?.name ?? "", assigneeId: to.slice(7), team: null };
	return { who: owner ?? "you", assigneeId: null, team: null };
}

const alone = (draft: Draft, giving: Giving): Line => ({
	key: "alone",
	dealId: null,
	deal: "",
	close: null,
	title: giving.title,
	dueOn: giving.due,
	...whoOf(draft, giving.to, null),
	flags: [],
	options: giving.options,
	left: false,
});

function ofDeal(draft: Draft, giving: Giving, deal: Draft["deals"][number]): Line[] {
	const line = (key: string, given: Partial<Line>): Line => ({
		key,
		dealId: deal.id,
		deal: deal.name,
		close: deal.close,
		title: "",
		dueOn: giving.due,
		...whoOf(draft, giving.to, deal.ownerActive ? deal.owner : null),
		flags: [],
		options: giving.options,
		left: false,
		...given,
	});
	if (giving.way === "one") return [line(deal.id, { title: draft.deals.length > 1 ? fillIn(giving.title, deal.fields) : giving.title, flags: giving.flags })];
	if (giving.way === "each") {
		const worst = [...deal.flags].sort((a, b) => b.severity - a.severity)[0];
		return [line(deal.id, { title: worst?.remedy ?? "", flags: worst ? [worst.code] : [] })];
	}
	const kit = draft.kits.find(({ id }) => id === giving.kit);
	return (kit?.steps ?? []).map((step, i) =>
		line(`${deal.id} ${i}`, {
			title: fillIn(step.title, deal.fields),
			dueOn: draft.days[Math.min(step.days, draft.days.length - 1)] ?? giving.due,
			flags: step.flags,
			options: { ...giving.options, importance: step.importance as Importance, asks: step.asks, checklist: step.checklist },
		}),
	);
}

/** `in 3 working days`, counted on the days of a draft; null where the day isn't among them. */
export function inWorkingDays(draft: Draft, day: string): string | null {
	const at = draft.days.indexOf(day);
	return at < 0 ? null : at === 0 ? "today" : byCount(at, "the next working day", `in ${at} working days`);
}
