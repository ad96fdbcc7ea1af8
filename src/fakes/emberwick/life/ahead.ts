import type { Day } from "../../../core/time/day";
import type { Chance } from "../almanac";
import type { Ledger } from "../ledger";
import { TALK } from "../words";
import type { DealGiven } from "./given";
import type { Start } from "./start";

interface Asked {
	readonly deal: string;
	readonly owner: string;
	readonly day: Day;
	readonly title: string;
	readonly flags: readonly string[];
	/** working days after which it is done; without, it is done about when it is due */
	readonly after: number | undefined;
}

/** Gives an owner a task, and does it, drops it or leaves it open. */
export function askOwner(ledger: Ledger, chance: Chance, { deal, owner, day, title, flags, after }: Asked): void {
	const { calendar, today } = ledger.almanac;
	const due = calendar.add(day, chance.whole(3, 6));
	const done = after === undefined ? calendar.add(due, chance.yes(0.7) ? 0 : chance.whole(1, 9)) : calendar.add(day, after);
	const finished = done <= today;
	const dropped = after === undefined && chance.yes(0.08);
	ledger.task({
		deal,
		title,
		assignee: owner,
		created: day,
		due,
		flags,
		done: finished ? done : undefined,
		state: finished ? (dropped ? "dropped" : "done") : "open",
	});
}

/** Plans an activity so many working days after today, with what is talked of in a stage. */
export function planActivity(
	ledger: Ledger,
	chance: Chance,
	{ id, account }: DealGiven,
	{ contacts }: Start,
	{ owner, inDays, rank }: { owner: string; inDays: number; rank: number },
): void {
	const { calendar, today } = ledger.almanac;
	ledger.activity({
		deal: id,
		account: account.id,
		contacts: contacts.slice(0, 1),
		kind: chance.pick(["call", "meeting"]),
		direction: "both",
		state: "planned",
		day: calendar.add(today, inDays),
		minutes: chance.whole(20, 400),
		by: owner,
		subject: chance.pick((TALK[rank] ?? TALK[0])?.next ?? []),
	});
}
