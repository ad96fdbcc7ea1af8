import type { Day } from "../../core/time/day";
import { addAccount } from "./accounts";
import type { Chance } from "./almanac";
import type { DealState, Ledger } from "./ledger";
import { minor } from "./ledger";
import stories from "./stories.json";

/** A moment in a story deal, `ago` working days before today. */
interface Moment {
	readonly ago: number;
	readonly set?: Partial<Omit<DealState, "close" | "nextStepDay">> & { closeAgo?: number | null; nextStepAgo?: number | null };
	readonly say?: readonly [kind: string, direction: string, subject: string, body?: string];
	readonly answers?: Readonly<Record<string, readonly [level: string, note: string]>>;
}

interface Story {
	readonly id: string;
	readonly account: string;
	readonly industry: string;
	readonly owner: string;
	readonly deal: string;
	readonly source: string;
	readonly competitor?: string;
	readonly contacts: number;
	readonly moments: readonly Moment[];
	/** days as in moments */
	readonly tasks?: readonly { title: string; given: number; due: number; done?: number; flags: readonly string[] }[];
}

/** Six deals of the North team, each in trouble for another reason, and three that moved in the last days. Days are working days before today; below zero, after it. */
const { troubled, movers } = stories as unknown as Readonly<Record<"troubled" | "movers", readonly Story[]>>;

/** Writes the story's deals with their accounts. */
export function tellStories(ledger: Ledger, chance: Chance): void {
	for (const story of [...troubled, ...movers]) tell(ledger, chance, story);
}

function tell(ledger: Ledger, chance: Chance, story: Story): void {
	const { almanac } = ledger;
	const account = addAccount(ledger, chance, {
		name: story.account,
		industry: story.industry,
		owner: story.owner,
		territory: "Coast",
		currency: "EUR",
		kind: "customer",
	});
	const dayAt: DayAt = (ago) => (ago >= 0 ? almanac.back(almanac.today, ago) : almanac.calendar.add(almanac.today, -ago));
	const contacts = account.contacts.slice(0, story.contacts);
	const first = story.moments[0] as Moment;
	ledger.add("deals.csv", {
		id: story.id,
		account_id: account.id,
		name: story.deal,
		source: story.source,
		created_at: almanac.at(dayAt(first.ago), 61),
		competitor: story.competitor ?? null,
		outcome_reason: null,
		tags: ["tour"],
	});
	for (const contact of contacts) ledger.add("deal_contacts.csv", { deal_id: story.id, contact_id: contact });
	tellMoments(ledger, story, account.id, contacts, dayAt);
	for (const task of story.tasks ?? []) {
		ledger.task({
			deal: story.id,
			title: task.title,
			assignee: story.owner,
			created: dayAt(task.given),
			due: dayAt(task.due),
			flags: task.flags,
			done: task.done === undefined ? undefined : dayAt(task.done),
			state: task.done === undefined ? "open" : "done",
		});
	}
	ledger.add("orders.csv", {
		account_id: account.id,
		date: almanac.iso(dayAt(300)),
		product: "Deck oven D4",
		amount: minor(77_000, "EUR"),
		currency: "EUR",
	});
}

/** The day so many working days before today; negative ones lie ahead. */
type DayAt = (ago: number) => Day;

/** What is set, said and answered in a story’s moments, one after another. */
function tellMoments(ledger: Ledger, story: Story, account: string, contacts: readonly string[], dayAt: DayAt): void {
	const state: DealState = {
		stage: "Enquiry",
		amount: null,
		currency: "EUR",
		close: null,
		owner: story.owner,
		category: "pipeline",
		nextStep: null,
		nextStepDay: null,
	};
	for (const moment of story.moments) {
		const day = dayAt(moment.ago);
		if (moment.set) {
			const { closeAgo, nextStepAgo, ...plain } = moment.set;
			Object.assign(state, plain);
			if (closeAgo !== undefined) state.close = closeAgo === null ? null : dayAt(closeAgo);
			if (nextStepAgo !== undefined) state.nextStepDay = nextStepAgo === null ? null : dayAt(nextStepAgo);
			ledger.version(story.id, day, 70, state);
			if (state.stage === "Proposal" && plain.stage)
				ledger.quote({ deal: story.id, sent: day, valid: day + 45, answered: null, answer: null, amount: state.amount ?? 0, currency: "EUR" });
		}
		if (moment.say) {
			const [kind, direction, subject, body] = moment.say;
			const by = direction === "in" ? null : story.owner;
			ledger.activity({ deal: story.id, account, contacts, kind, direction, day, minutes: 95, by, subject, ...(body ? { body } : {}) });
		}
		for (const [question, [level, note]] of Object.entries(moment.answers ?? {})) ledger.answer(story.id, question, level, day, 130, story.owner, note);
	}
}
