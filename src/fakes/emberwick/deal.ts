import type { Day } from "../../core/time/day";
import type { DemoAccount } from "./accounts";
import type { Chance } from "./almanac";
import { CAST, teamOf } from "./cast";
import { type DealState, type Ledger, minor, PER_EURO, tidy } from "./ledger";
import { makePlan, type Plan } from "./plan";
import { sentences } from "./sentences";
import { ANSWER_NOTES, COMPETITORS, LOSS_REASONS, QUESTIONS, SOURCES, STAGES, TALK } from "./words";

export interface DealGiven {
	readonly id: string;
	readonly account: DemoAccount;
	readonly created: Day;
	/** last day the owner worked here, when they left */
	readonly ownerLeft: Day | null;
}

/** Writes one deal's life up to today: versions, activities, answers, quotes, tasks, lines. */
export function liveDeal(ledger: Ledger, chance: Chance, given: DealGiven): void {
	new Life(ledger, chance, given).live();
}

class Life {
	private readonly plan: Plan;
	private readonly contacts: readonly string[];
	private readonly product: string;
	private readonly state: DealState;
	private day: Day;
	private lastMinuteDay = Number.NaN;
	private lastMinute = 0;
	private answered = new Map<string, string>();
	private readonly unsaid: (subjects: readonly string[]) => string;
	/** share of the list price this rep gives away, mostly in the last two weeks */
	private readonly discount: number;
	private doubted = false;

	constructor(
		private readonly ledger: Ledger,
		private readonly chance: Chance,
		private readonly given: DealGiven,
	) {
		const owner = given.account.owner;
		const habit = CAST.find((member) => member.id === owner)?.habit;
		const count = habit === "two-contacts" ? 2 : chance.yes(0.72) ? chance.whole(2, 3) : 1;
		this.contacts = chance.yes(0.97) ? given.account.contacts.slice(0, count) : [];
		// The second contact of an account is the one who signs.
		this.plan = makePlan(chance, habit, teamOf(owner), this.contacts.length > 1);
		this.discount = habit === "gives-much" ? 0.12 : habit === "gives-little" ? 0.03 : 0.05 + chance.unit() * 0.04;
		this.day = given.created;
		this.product = chance.pick(this.plan.family.products).name;
		this.unsaid = sentences(chance, this.product);
		const { currency } = given.account;
		const euros = chance.around(Math.sqrt(this.plan.family.low * this.plan.family.high)) * 1000;
		const kept = Math.min(this.plan.family.high * 1000, Math.max(this.plan.family.low * 1000, euros));
		this.state = {
			stage: (STAGES[0] as (typeof STAGES)[number]).name,
			amount: chance.yes(0.05) ? null : tidy(kept * (PER_EURO[currency] ?? 1)),
			currency,
			close: chance.yes(0.025) ? null : this.hopedClose(),
			owner: chance.yes(0.008) ? null : owner,
			category: "pipeline",
			nextStep: null,
			nextStepDay: null,
		};
	}

	private get alm() {
		return this.ledger.almanac;
	}

	private hopedClose(): Day {
		const total = this.plan.lengths.reduce((sum, n) => sum + n, 0);
		const full = this.plan.ending === "won" ? total : Math.max(total, 55 * this.plan.family.pace);
		const hoped = this.alm.calendar.add(this.day, Math.max(8, Math.round(full * (0.88 + this.chance.unit() * 0.45))));
		return this.chance.yes(0.5) ? this.alm.monthEnd(hoped) : hoped;
	}

	/** Minutes past eight, later than any before on the same day. */
	private minute(): number {
		this.lastMinute = this.lastMinuteDay === this.day ? this.lastMinute + this.chance.whole(3, 19) : this.chance.whole(5, 300);
		this.lastMinuteDay = this.day;
		return this.lastMinute;
	}

	private save(): void {
		this.ledger.version(this.given.id, this.day, this.minute(), this.state);
	}

	live(): void {
		const { today, calendar } = this.alm;
		const { family, ending, lengths } = this.plan;
		this.addDeal();
		this.enter(0);
		let rank = 0;
		let left = lengths[0] ?? 0;
		let untilTouch = this.chance.whole(0, 3);
		while (true) {
			if (left <= 0) {
				rank++;
				if (rank >= lengths.length) {
					if (ending !== "lingers") this.close(ending);
					else this.linger(rank - 1);
					return;
				}
				this.enter(rank);
				if (this.plan.habit === "back-and-forth" && rank > 1 && this.chance.yes(0.45)) this.goBack(rank);
				left = lengths[rank] ?? 0;
			}
			if (untilTouch <= 0) {
				this.touch(rank);
				untilTouch = Math.round(this.chance.around(family.pace > 1.3 ? 8 : 6));
			}
			this.mindCloseDate(this.stillToGo(rank, left));
			if (ending === "won" && rank === STAGES.length - 1 && left === Math.min(9, lengths[rank] ?? 0)) this.giveDiscount();
			if (!this.doubted && calendar.between(this.given.created, this.day) > 130 && this.chance.yes(0.05)) this.doubt();
			const next = calendar.add(this.day, 1);
			if (next > today) {
				this.plan_(untilTouch, rank);
				return;
			}
			this.day = next;
			left--;
			untilTouch--;
		}
	}

	/** Working days until the end, of a stage with so many left. */
	private stillToGo(rank: number, left: number): number {
		return this.plan.lengths.slice(rank + 1).reduce((sum, n) => sum + n, left);
	}

	private giveDiscount(): void {
		if (this.state.amount === null) return;
		this.state.amount = tidy(this.state.amount * (1 - this.discount));
		this.save();
	}

	/** A task to decide about a deal that is open long: it is ticked, and nothing comes of it. */
	private doubt(): void {
		this.doubted = true;
		this.ask("Decide: close plan or let go", ["aging-deal"]);
	}

	private addDeal(): void {
		const { id, account, created } = this.given;
		const { family, ending } = this.plan;
		const south = teamOf(account.owner) === "South";
		const competitor = this.chance.yes(0.45) ? (south && this.chance.yes(0.6) ? (COMPETITORS[0] as string) : this.chance.pick(COMPETITORS)) : null;
		const finished =
			this.alm.calendar.add(
				created,
				this.plan.lengths.reduce((sum, n) => sum + n, 0),
			) <= this.alm.today;
		const reason = ending === "lost" && finished ? (competitor === COMPETITORS[0] ? "Price" : this.chance.pick(LOSS_REASONS)) : null;
		const name = this.chance.pick(family.deals).replace("{n}", String(this.chance.whole(2, 12)));
		this.ledger.add("deals.csv", {
			id,
			account_id: account.id,
			name,
			source: account.kind === "customer" ? "Existing customer" : this.chance.pick(SOURCES),
			created_at: this.alm.at(created, this.minute()),
			competitor,
			outcome_reason: reason,
			tags: this.chance.yes(0.15) ? [this.chance.pick(["summer", "new-site", "energy"])] : [],
		});
		for (const contact of this.contacts) this.ledger.add("deal_contacts.csv", { deal_id: id, contact_id: contact });
		const rate = PER_EURO[account.currency] ?? 1;
		for (const product of family.products.slice(0, this.chance.whole(1, family.products.length))) {
			const list = tidy(product.price * rate);
			this.ledger.add("deal_lines.csv", {
				deal_id: id,
				product: product.name,
				family: family.name,
				quantity: String(this.chance.whole(1, 4)),
				list_price: minor(list, account.currency),
				unit_price: minor(tidy(list * (1 - this.discount * (0.8 + this.chance.unit() * 0.4))), account.currency),
				currency: account.currency,
			});
		}
	}

	private enter(rank: number): void {
		const stage = STAGES[rank];
		if (!stage) return;
		this.state.stage = stage.name;
		this.state.category = this.categoryAt(rank);
		if (rank >= 1 && this.state.amount === null && this.chance.yes(0.8)) this.state.amount = tidy(this.plan.family.low * 1600);
		if (rank === 3 && this.state.amount !== null && this.chance.yes(0.5)) {
			const cut = this.chance.yes(0.12);
			this.state.amount = tidy(this.state.amount * (cut ? 0.75 + this.chance.unit() * 0.1 : 0.94 + this.chance.unit() * 0.14));
		}
		// Who commits late knows the day.
		if (this.state.category === "commit" && this.plan.habit !== "commits-early" && this.plan.ending === "won")
			this.state.close = this.alm.calendar.add(this.day, this.stillToGo(rank, this.plan.lengths[rank] ?? 0) + this.chance.whole(0, 2));
		this.save();
		this.answerFor(rank);
		if (rank === 3) {
			this.ledger.quote({
				deal: this.given.id,
				sent: this.day,
				valid: this.day + 30,
				answered: null,
				answer: null,
				amount: this.state.amount ?? 1000,
				currency: this.state.currency,
			});
		}
	}

	private categoryAt(rank: number): string | null {
		if (this.plan.habit === "commits-early" && rank >= 2) return "commit";
		if (this.chance.yes(0.04)) return "left_out";
		const wins = this.plan.ending === "won";
		if (rank === 4) return this.chance.yes(wins ? 0.85 : 0.06) ? "commit" : "best_case";
		if (rank === 3 && this.chance.yes(wins ? 0.2 : 0.01)) return "commit";
		if (rank === 3) return this.chance.yes(0.65) ? "best_case" : "pipeline";
		return "pipeline";
	}

	private goBack(rank: number): void {
		this.pass(this.chance.whole(2, 5));
		if (this.day >= this.alm.today) return;
		this.state.stage = (STAGES[rank - 1] as (typeof STAGES)[number]).name;
		this.save();
		this.pass(this.chance.whole(1, 4));
		this.state.stage = (STAGES[rank] as (typeof STAGES)[number]).name;
		this.save();
	}

	/** Lets working days go by, but never beyond today. */
	private pass(days: number): void {
		this.day = Math.min(this.alm.calendar.add(this.day, days), this.alm.calendar.lastOnOrBefore(this.alm.today));
	}

	private answerFor(rank: number): void {
		if (this.plan.habit === "writes-no-answers" && this.chance.yes(0.85)) return;
		for (const question of QUESTIONS) {
			if (question.due > rank + 1) continue;
			const before = this.answered.get(question.id);
			if (before === "shown" || (before === "heard" && this.chance.yes(0.6)) || this.chance.yes(question.key ? 0.05 : 0.18)) continue;
			const chance = this.chance.unit();
			const level = chance < 0.07 ? "assumed" : chance < 0.58 ? "heard" : chance < 0.97 ? "shown" : "against";
			this.answered.set(question.id, level);
			this.ledger.answer(this.given.id, question.id, level, this.day, this.minute(), this.state.owner, this.chance.pick(ANSWER_NOTES[level] ?? []));
		}
	}

	/** Something is said or written, the next step is noted, and now and then a task is given. */
	private touch(rank: number): void {
		const gone = this.given.ownerLeft !== null && this.day > this.given.ownerLeft;
		if (gone && this.chance.yes(0.75)) return;
		const talk = TALK[rank] ?? TALK[0];
		if (!talk) return;
		const roll = this.chance.unit();
		const say = (kind: string, direction: "in" | "out" | "both" | "none", subjects: readonly string[]) =>
			this.ledger.activity({
				deal: this.given.id,
				account: this.given.account.id,
				contacts: direction === "none" ? [] : this.whoWasThere(),
				kind,
				direction,
				day: this.day,
				minutes: this.minute(),
				by: direction === "in" ? null : this.state.owner,
				subject: this.unsaid(subjects),
			});
		if (roll < 0.3) say("email", "out", talk.out);
		else if (roll < 0.55) {
			say("email", "in", talk.in);
			if (this.chance.yes(0.8)) {
				this.pass(this.chance.whole(0, 1));
				say("email", "out", talk.out);
			} else if (this.chance.yes(0.6)) {
				// It lies there until somebody is asked to answer it, and then does.
				this.pass(2);
				this.ask("Answer what they asked", ["reply-owed"], 1);
				this.pass(1);
				say("email", "out", talk.out);
			}
		} else if (roll < 0.92) say(rank === 1 ? "visit" : rank === 2 ? "demo" : this.chance.pick(["call", "meeting", "call"]), "both", talk.both);
		else say("note", "none", talk.none);
		if (this.chance.yes(0.84)) {
			this.state.nextStep = this.unsaid(talk.next);
			this.state.nextStepDay = this.alm.calendar.add(this.day, this.chance.whole(5, 12));
			this.save();
		}
		if (this.chance.yes(0.045)) this.giveTask();
	}

	private whoWasThere(): readonly string[] {
		if (this.plan.habit === "two-contacts" || this.chance.yes(0.4)) return this.contacts.slice(0, 2);
		return this.contacts.length ? [this.chance.pick(this.contacts)] : [];
	}

	private giveTask(): void {
		const [flags, title] = this.chance.pick([
			[["no-next-step"], "Set the next step with a date"],
			[["stalled"], "Get a conversation with the buyer on the calendar"],
			[["under-qualified"], "Ask who signs, and meet them"],
			[["overdue", "slipped"], "Agree a real close date with the buyer"],
		] as const);
		this.ask(title, flags);
	}

	/** Gives the owner a task; without a day of its own it is done about when it is due. */
	private ask(title: string, flags: readonly string[], after?: number): void {
		const owner = this.state.owner;
		if (!owner) return;
		const due = this.alm.calendar.add(this.day, this.chance.whole(3, 6));
		const done = after === undefined ? this.alm.calendar.add(due, this.chance.yes(0.7) ? 0 : this.chance.whole(1, 9)) : this.alm.calendar.add(this.day, after);
		const finished = done <= this.alm.today;
		const dropped = after === undefined && this.chance.yes(0.08);
		this.ledger.task({
			deal: this.given.id,
			title,
			assignee: owner,
			created: this.day,
			due,
			flags,
			done: finished ? done : undefined,
			state: finished ? (dropped ? "dropped" : "done") : "open",
		});
	}

	/** Close dates that no longer fit are pushed: by some at each month's end, by others once they have passed. */
	private mindCloseDate(stillToGo: number): void {
		const { close } = this.state;
		if (close === null) return;
		const { calendar } = this.alm;
		const lastDays = calendar.between(this.day, this.alm.monthEnd(this.day)) < 3;
		const left = calendar.between(this.day, close);
		const habit = this.plan.habit === "pushes-at-month-end";
		const wish = habit
			? lastDays && left < Math.min(stillToGo, 22)
				? 0.5
				: 0
			: (left < 0 ? 0.11 : left < stillToGo * 0.5 && left < 15 ? 0.08 : 0) * (lastDays ? 0.1 : 1);
		if (!this.chance.yes(wish)) return;
		const to = calendar.add(this.day, Math.max(6, Math.round(stillToGo * (habit ? 0.3 + this.chance.unit() * 0.5 : 0.8 + this.chance.unit() * 0.5))));
		this.state.close = this.chance.yes(0.4) ? this.alm.monthEnd(to) : to;
		this.save();
	}

	/** What lies ahead of today: for some a planned activity. */
	private plan_(untilTouch: number, rank: number): void {
		if (!this.state.owner || this.given.ownerLeft !== null || !this.chance.yes(0.45)) return;
		const day = this.alm.calendar.add(this.alm.today, Math.max(1, untilTouch));
		this.ledger.activity({
			deal: this.given.id,
			account: this.given.account.id,
			contacts: this.contacts.slice(0, 1),
			kind: this.chance.pick(["call", "meeting"]),
			direction: "both",
			state: "planned",
			day,
			minutes: this.chance.whole(20, 400),
			by: this.state.owner,
			subject: this.chance.pick((TALK[rank] ?? TALK[0])?.next ?? []),
		});
	}

	private close(ending: "won" | "lost"): void {
		if (ending === "won" && this.state.amount === null) this.state.amount = tidy(this.plan.family.low * 1500);
		this.state.stage = ending === "won" ? "Won" : "Lost";
		this.state.close = this.day;
		this.state.category = ending === "won" ? "commit" : "left_out";
		this.state.nextStep = null;
		this.state.nextStepDay = null;
		this.save();
		if (ending === "won") {
			this.ledger.add("orders.csv", {
				account_id: this.given.account.id,
				date: this.alm.iso(this.day),
				product: this.product,
				amount: minor(this.state.amount ?? 0, this.state.currency),
				currency: this.state.currency,
			});
		}
	}

	/** Nobody decides: a few more words, then silence, until someone calls it lost. */
	private linger(rank: number): void {
		const given = this.chance.whole(15, 70);
		for (let passed = 0; passed < given; ) {
			const step = this.chance.whole(6, 16);
			passed += step;
			const next = this.alm.calendar.add(this.day, step);
			if (next > this.alm.today) return;
			this.day = next;
			if (this.chance.yes(0.45)) this.touch(rank);
			this.mindCloseDate(30);
		}
		this.close("lost");
	}
}
