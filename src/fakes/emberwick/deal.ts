import type { Day } from "../../core/time/day";
import type { Chance } from "./almanac";
import { type DealState, type Ledger, tidy } from "./ledger";
import { addDeal, addOrder } from "./life/addDeal";
import { askOwner, planActivity } from "./life/ahead";
import type { DealGiven } from "./life/given";
import { amountAt, categoryAt, newAnswers, pushedClose, TASKS_GIVEN } from "./life/habits";
import { firstState, type Start, startOf } from "./life/start";
import type { Plan } from "./plan";
import { sentences } from "./sentences";
import { ANSWER_NOTES, STAGES, TALK } from "./words";

/** Writes one deal's life up to today: versions, activities, answers, quotes, tasks, lines. */
export function liveDeal(ledger: Ledger, chance: Chance, given: DealGiven): void {
	new Life(ledger, chance, given).live();
}

class Life {
	private readonly plan: Plan;
	private readonly state: DealState;
	private day: Day;
	private lastMinuteDay = Number.NaN;
	private lastMinute = 0;
	private answered = new Map<string, string>();
	private readonly unsaid: (subjects: readonly string[]) => string;
	private doubted = false;
	private readonly start: Start;

	constructor(
		private readonly ledger: Ledger,
		private readonly chance: Chance,
		private readonly given: DealGiven,
	) {
		this.start = startOf(chance, given);
		this.plan = this.start.plan;
		this.day = given.created;
		this.unsaid = sentences(chance, this.start.product);
		this.state = firstState(ledger.almanac, chance, given, this.plan);
	}

	private get alm() {
		return this.ledger.almanac;
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
		addDeal(this.ledger, this.chance, this.given, this.start, () => this.minute());
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
		this.state.amount = tidy(this.state.amount * (1 - this.start.discount));
		this.save();
	}

	/** A task to decide about a deal that is open long: it is ticked, and nothing comes of it. */
	private doubt(): void {
		this.doubted = true;
		this.ask("Decide: close plan or let go", ["aging-deal"]);
	}

	private enter(rank: number): void {
		const stage = STAGES[rank];
		if (!stage) return;
		this.state.stage = stage.name;
		this.state.category = categoryAt(this.chance, this.plan, rank);
		this.state.amount = amountAt(this.chance, this.plan, rank, this.state.amount);
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
		for (const { id, level } of newAnswers(this.chance, rank, this.answered))
			this.ledger.answer(this.given.id, id, level, this.day, this.minute(), this.state.owner, this.chance.pick(ANSWER_NOTES[level] ?? []));
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
		if (this.chance.yes(0.045)) {
			const [flags, title] = this.chance.pick(TASKS_GIVEN);
			this.ask(title, flags);
		}
	}

	private whoWasThere(): readonly string[] {
		if (this.plan.habit === "two-contacts" || this.chance.yes(0.4)) return this.start.contacts.slice(0, 2);
		return this.start.contacts.length ? [this.chance.pick(this.start.contacts)] : [];
	}

	/** Gives the owner a task; without a day of its own it is done about when it is due. */
	private ask(title: string, flags: readonly string[], after?: number): void {
		if (this.state.owner) askOwner(this.ledger, this.chance, { deal: this.given.id, owner: this.state.owner, day: this.day, title, flags, after });
	}

	private mindCloseDate(stillToGo: number): void {
		const pushed = pushedClose(this.alm, this.chance, { habit: this.plan.habit, day: this.day, close: this.state.close, stillToGo });
		if (pushed === null) return;
		this.state.close = pushed;
		this.save();
	}

	/** What lies ahead of today: for some a planned activity. */
	private plan_(untilTouch: number, rank: number): void {
		if (!this.state.owner || this.given.ownerLeft !== null || !this.chance.yes(0.45)) return;
		planActivity(this.ledger, this.chance, this.given, this.start, { owner: this.state.owner, inDays: Math.max(1, untilTouch), rank });
	}

	private close(ending: "won" | "lost"): void {
		if (ending === "won" && this.state.amount === null) this.state.amount = tidy(this.plan.family.low * 1500);
		this.state.stage = ending === "won" ? "Won" : "Lost";
		this.state.close = this.day;
		this.state.category = ending === "won" ? "commit" : "left_out";
		this.state.nextStep = null;
		this.state.nextStepDay = null;
		this.save();
		if (ending === "won") addOrder(this.ledger, this.given.account.id, this.day, this.start.product, this.state);
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
