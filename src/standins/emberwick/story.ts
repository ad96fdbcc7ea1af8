import type { Day } from "../../core/time/day";
import { addAccount, type DemoAccount } from "./accounts";
import type { Chance } from "./almanac";
import type { DealState, Ledger } from "./ledger";
import { minor } from "./ledger";

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

/** Six deals of the North team, each in trouble for another reason. Days are working days before today; below zero, after it. */
const STORIES: readonly Story[] = [
	{
		tasks: [{ title: "Agree a real close date with the buyer", given: 18, due: 14, done: 14, flags: ["overdue"] }],
		id: "story-rack",
		account: "Saltmarsh Patisserie",
		industry: "Bakery",
		owner: "ines",
		deal: "Rack ovens, three sites",
		source: "Trade fair",
		competitor: "Kelloran Thermal",
		contacts: 2,
		moments: [
			{
				ago: 92,
				set: { stage: "Enquiry", amount: 430_000, closeAgo: 46, category: "pipeline" },
				say: ["call", "both", "First call: three sites, ovens from 2009"],
			},
			{
				ago: 80,
				set: { stage: "Site survey" },
				say: ["visit", "both", "Site survey, all three kitchens"],
				answers: {
					trouble: ["shown", "Two ovens down in August, 31 000 lost"],
					worth: ["heard", "Energy bill is 88 000 a year, they say"],
					ally: ["shown", "Jonas presented it to the owners himself"],
				},
			},
			{ ago: 66, set: { stage: "Trial bake", amount: 450_000, category: "best_case" }, say: ["demo", "both", "Trial bake with their brioche"] },
			{ ago: 48, set: { closeAgo: 38 }, say: ["email", "out", "New date: owners meet at month end"] },
			{
				ago: 44,
				set: { stage: "Proposal" },
				say: ["email", "out", "Proposal for three sites"],
				answers: {
					signs: ["assumed", "Probably finance, nobody said so"],
					rivals: ["against", "Kelloran is cheaper on the third site"],
					date: ["heard", "Before the Christmas trade"],
				},
			},
			{ ago: 37, set: { closeAgo: 16 }, say: ["meeting", "both", "Payback meeting with the site manager"] },
			{ ago: 31, set: { stage: "Terms", category: "commit" }, say: ["meeting", "both", "Terms: site manager and finance"] },
			{ ago: 14, set: { closeAgo: 4 }, say: ["email", "out", "Revised offer with a discount on site three"] },
			{ ago: 9, set: { amount: 412_000, nextStep: "Get the signature", nextStepAgo: 4 }, say: ["email", "out", "Contract draft sent"] },
			{
				ago: 4,
				say: [
					"email",
					"in",
					"When can you start on site two?",
					"We can only close one kitchen at a time. When would your crew start on site two, and what happens if it is later than the 10th?",
				],
			},
		],
	},
	{
		tasks: [{ title: "Ask who signs, and meet them", given: 10, due: 1, flags: ["under-qualified"] }],
		id: "story-deck",
		account: "Nine Loaves Co-op",
		industry: "Bakery chain",
		owner: "tobias",
		deal: "Deck oven line refit",
		source: "Web enquiry",
		contacts: 1,
		moments: [
			{
				ago: 41,
				set: { stage: "Enquiry", amount: 260_000, closeAgo: -22, category: "pipeline" },
				say: ["email", "in", "Asks for a deck oven line for the main shop"],
			},
			{
				ago: 35,
				set: { stage: "Site survey" },
				say: ["visit", "both", "Walked the bakery at night shift"],
				answers: { trouble: ["assumed", "The old line breaks down a lot, I think"] },
			},
			{ ago: 29, set: { stage: "Trial bake", category: "commit", amount: 286_000 }, say: ["call", "both", "Call: wants it before Christmas"] },
			{ ago: 12, set: { nextStep: "Book the trial bake", nextStepAgo: 6 }, say: ["email", "both", "Looking for a trial day"] },
		],
	},
	{
		tasks: [
			{ title: "Send the bank the payback figures", given: 8, due: 2, flags: ["aging-stage"] },
			{ title: "Ask the owner for the bank’s date", given: 3, due: 0, flags: ["aging-stage"] },
		],
		id: "story-proofer",
		account: "Quay Street Bagels",
		industry: "Bakery",
		owner: "ines",
		deal: "Proofer upgrade",
		source: "Existing customer",
		contacts: 2,
		moments: [
			{
				ago: 78,
				set: { stage: "Enquiry", amount: 162_000, closeAgo: -18, category: "pipeline" },
				say: ["call", "both", "Needs two more proofers for the new bagel line"],
			},
			{
				ago: 70,
				set: { stage: "Site survey" },
				say: ["visit", "both", "Survey of the proof room"],
				answers: {
					trouble: ["shown", "Orders turned away, list seen"],
					worth: ["shown", "Own calculation: 4 100 a week"],
					ally: ["heard", "Production lead backs it"],
				},
			},
			{
				ago: 58,
				set: { stage: "Trial bake" },
				say: ["demo", "both", "Cold proofing trial, two nights"],
				answers: {
					signs: ["shown", "Met the owner at the trial"],
					date: ["heard", "New shop opens in March"],
					nothing: ["heard", "They would lose the hotel contract"],
					rivals: ["heard", "No one else asked"],
				},
			},
			{
				ago: 44,
				set: { stage: "Proposal", amount: 174_500, category: "best_case" },
				say: ["email", "out", "Proposal sent"],
				answers: { steps: ["heard", "Owner, then the bank"], money: ["heard", "Bank loan, half approved"] },
			},
			{
				ago: 11,
				set: { nextStep: "Walk the owner through the payback", nextStepAgo: 3 },
				say: ["call", "both", "Call with the owner: bank asks for the figures again"],
			},
		],
	},
	{
		tasks: [{ title: "Get a conversation with the operations director", given: 12, due: 6, flags: ["stalled"] }],
		id: "story-plant",
		account: "Larkfield Bakehouse",
		industry: "Bakery chain",
		owner: "maeve",
		deal: "New plant, phase one",
		source: "Referral",
		competitor: "Norrlund Backtek",
		contacts: 2,
		moments: [
			{
				ago: 120,
				set: { stage: "Enquiry", amount: 538_000, closeAgo: 58, category: "pipeline" },
				say: ["meeting", "both", "New plant: two lines, the first by next summer"],
			},
			{
				ago: 104,
				set: { stage: "Site survey" },
				say: ["visit", "both", "Survey on the empty lot with the architect"],
				answers: { trouble: ["heard", "Old plant is at its limit"], worth: ["assumed", "Must be large"] },
			},
			{
				ago: 78,
				set: { stage: "Trial bake", closeAgo: 37, category: "best_case" },
				say: ["demo", "both", "Trial of rolls on our tunnel"],
				answers: { signs: ["heard", "The family council, we met two of five"], ally: ["heard", "Operations director pushes for us"] },
			},
			{ ago: 60, set: { closeAgo: 15 }, say: ["email", "out", "New timeline, the permit is late"] },
			{
				ago: 39,
				set: { stage: "Proposal" },
				say: ["meeting", "both", "Proposal to the family council"],
				answers: { date: ["heard", "Permit runs out next June"], rivals: ["heard", "Norrlund offered too"] },
			},
			{ ago: 17, set: { closeAgo: -10 }, say: ["call", "both", "Council wants to wait for the permit"] },
			{ ago: 13, say: ["email", "out", "Sent the permit papers for their lawyer"] },
			{ ago: 8, say: ["email", "out", "Asked whether the papers arrived"] },
			{ ago: 6, set: { nextStep: "Reach the operations director", nextStepAgo: 1 } },
		],
	},
	{
		id: "story-mixers",
		account: "Thistle & Rye",
		industry: "Bakery",
		owner: "piotr",
		deal: "Spiral mixers",
		source: "Cold call",
		competitor: "Vostrel Ovens",
		contacts: 1,
		moments: [
			{ ago: 168, set: { stage: "Enquiry", amount: 112_000, closeAgo: 70, category: "pipeline" }, say: ["call", "both", "Mixers are twelve years old"] },
			{
				ago: 150,
				set: { stage: "Site survey" },
				say: ["visit", "both", "Looked at the mixer room"],
				answers: { trouble: ["heard", "Bowl lift is unsafe"], worth: ["heard", "Two hours a shift"], ally: ["heard", "Head baker"] },
			},
			{
				ago: 121,
				set: { stage: "Trial bake" },
				say: ["demo", "both", "Sourdough trial on the S120"],
				answers: { signs: ["shown", "Owner came to the trial"], date: ["assumed", "Spring, maybe"] },
			},
			{ ago: 74, set: { closeAgo: 20 }, say: ["email", "out", "Owner is away until autumn"] },
			{
				ago: 60,
				set: { stage: "Proposal", category: "best_case" },
				say: ["email", "out", "Proposal sent"],
				answers: { steps: ["heard", "Owner decides alone"], money: ["heard", "Cash"], rivals: ["heard", "Vostrel has offered as well"] },
			},
			{ ago: 24, set: { closeAgo: -12 }, say: ["call", "both", "He compares with Vostrel, wants our last price"] },
			{
				ago: 8,
				set: { stage: "Terms", amount: 92_000, category: "commit", nextStep: "Get the signature", nextStepAgo: -4 },
				say: ["call", "both", "Two mixers dropped and a discount on the rest"],
			},
		],
	},
	{
		id: "story-service",
		account: "Old Mill Breads",
		industry: "Bakery",
		owner: "maeve",
		deal: "Service plan renewal",
		source: "Existing customer",
		contacts: 0,
		moments: [
			{
				ago: 26,
				set: { stage: "Enquiry", amount: 61_200, closeAgo: null, category: "pipeline" },
				say: ["email", "in", "Plan ends in spring, what would a new one cost?"],
			},
			{ ago: 25, say: ["email", "out", "Price list and dates for a visit"] },
			{
				ago: 11,
				set: { stage: "Site survey", nextStep: "Count the burners", nextStepAgo: -3 },
				say: ["visit", "both", "Looked at two of four sites"],
				answers: { trouble: ["assumed", "The old plan didn't cover nights"] },
			},
		],
	},
];

/** Three more that moved in the last days, so that there is something to find between two Mondays. */
const MOVERS: readonly Story[] = [
	{
		id: "story-tunnel",
		account: "Candlewick Foods",
		industry: "Supermarket",
		owner: "tobias",
		deal: "Tunnel oven feasibility",
		source: "Referral",
		contacts: 2,
		moments: [
			{
				ago: 52,
				set: { stage: "Enquiry", amount: 690_000, closeAgo: -14, category: "pipeline" },
				say: ["call", "both", "They plan a central bakery for forty shops"],
			},
			{
				ago: 40,
				set: { stage: "Site survey" },
				say: ["visit", "both", "Survey of the warehouse hall"],
				answers: {
					trouble: ["shown", "Bread bought in costs 2.1 million a year"],
					worth: ["heard", "A third less per loaf"],
					ally: ["heard", "Operations director"],
				},
			},
			{
				ago: 21,
				set: { stage: "Trial bake", amount: 730_000 },
				say: ["demo", "both", "Trial bake of the toast line"],
				answers: { signs: ["heard", "Board of five, we met the chair"] },
			},
			{ ago: 4, set: { closeAgo: -42, nextStep: "Board date in January", nextStepAgo: -5 }, say: ["call", "both", "The board meets on it in January only"] },
		],
	},
	{
		id: "story-room",
		account: "Juniper Breads",
		industry: "Bakery",
		owner: "maeve",
		deal: "Proof room rebuild",
		source: "Existing customer",
		contacts: 2,
		moments: [
			{ ago: 37, set: { stage: "Enquiry", amount: 214_000, closeAgo: -9, category: "pipeline" }, say: ["call", "both", "Proof room is too small for Easter"] },
			{
				ago: 30,
				set: { stage: "Site survey" },
				say: ["visit", "both", "Measured the room and the doors"],
				answers: { trouble: ["heard", "Dough waits in the corridor"], ally: ["heard", "Head baker"] },
			},
			{
				ago: 3,
				set: { closeAgo: -36, amount: 220_000, nextStep: "Send the survey report", nextStepAgo: -2 },
				say: ["call", "both", "Their budget year starts in January"],
			},
		],
	},
	{
		id: "story-won",
		account: "Penny Loaf Bread Group",
		industry: "Bakery chain",
		owner: "ines",
		deal: "Deck ovens, new shop",
		source: "Referral",
		contacts: 2,
		moments: [
			{ ago: 61, set: { stage: "Enquiry", amount: 340_000, closeAgo: -6, category: "pipeline" }, say: ["meeting", "both", "New shop opens in spring"] },
			{
				ago: 50,
				set: { stage: "Site survey" },
				say: ["visit", "both", "Survey with the architect"],
				answers: { trouble: ["shown", "No ovens, no shop"], signs: ["shown", "Met both owners"], steps: ["heard", "Owners, then the bank"] },
			},
			{ ago: 36, set: { stage: "Trial bake", category: "best_case" }, say: ["demo", "both", "Trial bake with the owners"] },
			{ ago: 24, set: { stage: "Proposal" }, say: ["email", "out", "Proposal sent"] },
			{ ago: 12, set: { stage: "Terms", category: "commit", amount: 356_000 }, say: ["meeting", "both", "Terms agreed but for the installation week"] },
			{ ago: 2, set: { stage: "Won", closeAgo: 2 }, say: ["email", "in", "Signed order attached"] },
		],
	},
];

/** Writes the story's deals with their accounts. */
export function tellStories(ledger: Ledger, chance: Chance): void {
	for (const story of [...STORIES, ...MOVERS]) tell(ledger, chance, story);
}

function tell(ledger: Ledger, chance: Chance, story: Story): void {
	const { almanac } = ledger;
	const account: DemoAccount = addAccount(ledger, chance, {
		name: story.account,
		industry: story.industry,
		owner: story.owner,
		territory: "Coast",
		currency: "EUR",
		kind: "customer",
	});
	const dayAt = (ago: number): Day => (ago >= 0 ? almanac.back(almanac.today, ago) : almanac.calendar.add(almanac.today, -ago));
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
			if (state.stage === "Proposal" && plain.stage) {
				ledger.quote({ deal: story.id, sent: day, valid: day + 45, answered: null, answer: null, amount: state.amount ?? 0, currency: "EUR" });
			}
		}
		if (moment.say) {
			const [kind, direction, subject, body] = moment.say;
			ledger.activity({
				deal: story.id,
				account: account.id,
				contacts,
				kind,
				direction,
				day,
				minutes: 95,
				by: direction === "in" ? null : story.owner,
				subject,
				...(body ? { body } : {}),
			});
		}
		for (const [question, [level, note]] of Object.entries(moment.answers ?? {})) {
			ledger.answer(story.id, question, level, day, 130, story.owner, note);
		}
	}
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
