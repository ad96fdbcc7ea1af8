import { parseAmount } from "../../core/money/amount";
import { type Day, formatDay } from "../../core/time/day";
import type { Value } from "../../formats/bundle/model";
import type { BundleFile } from "../../formats/bundle/spec";
import type { OutRow } from "../../formats/bundle/write";
import type { Almanac } from "./almanac";

/** The state a deal's next version is written from. Amount in whole units of the currency. */
export interface DealState {
	stage: string;
	amount: number | null;
	currency: string;
	close: Day | null;
	owner: string | null;
	category: string | null;
	nextStep: string | null;
	nextStepDay: Day | null;
}

/** Units of a currency for one euro, roughly; amounts are made in euros and written in the account's currency. */
export const PER_EURO: Readonly<Record<string, number>> = { EUR: 1, GBP: 0.86, CHF: 0.94, SEK: 11.2 };

/** Collects the rows of the bundle. */
export class Ledger {
	readonly rows = new Map<BundleFile, OutRow[]>();
	private count = { activity: 0, task: 0, quote: 0 };

	constructor(readonly almanac: Almanac) {}

	add(file: BundleFile, fields: Record<string, Value>): void {
		const list = this.rows.get(file);
		if (list) list.push({ fields });
		else this.rows.set(file, [{ fields }]);
	}

	version(dealId: string, day: Day, minutes: number, state: DealState): void {
		this.add("deal_versions.csv", {
			deal_id: dealId,
			at: this.almanac.at(day, minutes),
			stage: state.stage,
			amount: state.amount === null ? null : minor(state.amount, state.currency),
			currency: state.currency,
			close_date: state.close === null ? null : formatDay(state.close),
			owner_id: state.owner,
			category: state.category,
			next_step: state.nextStep,
			next_step_date: state.nextStepDay === null ? null : formatDay(state.nextStepDay),
		});
	}

	activity(fields: {
		deal: string;
		account: string | null;
		contacts: readonly string[];
		kind: string;
		direction: string;
		state?: string;
		day: Day;
		minutes: number;
		by: string | null;
		subject: string;
		body?: string;
	}): void {
		this.add("activities.csv", {
			id: `a${++this.count.activity}`,
			deal_id: fields.deal,
			account_id: fields.account,
			contact_ids: [...fields.contacts],
			kind: fields.kind,
			direction: fields.direction,
			state: fields.state ?? "done",
			at: this.almanac.at(fields.day, fields.minutes),
			by_id: fields.by,
			subject: fields.subject,
			body: fields.body ?? null,
		});
	}

	answer(deal: string, question: string, level: string, day: Day, minutes: number, by: string | null, note: string | null): void {
		this.add("answers.csv", { deal_id: deal, question_id: question, level, note, at: this.almanac.at(day, minutes), by_id: by });
	}

	task(fields: {
		deal: string;
		title: string;
		assignee: string;
		due: Day;
		created: Day;
		done?: Day | undefined;
		state: string;
		flags: readonly string[];
	}): void {
		this.add("tasks.csv", {
			id: `t${++this.count.task}`,
			deal_id: fields.deal,
			title: fields.title,
			assignee_id: fields.assignee,
			due_on: formatDay(fields.due),
			created_at: this.almanac.at(fields.created, 20),
			done_at: fields.done === undefined ? null : this.almanac.at(fields.done, 430),
			state: fields.state,
			flags: [...fields.flags],
		});
	}

	quote(fields: { deal: string; sent: Day; valid: Day; answered: Day | null; answer: string | null; amount: number; currency: string }): void {
		const n = ++this.count.quote;
		this.add("quotes.csv", {
			id: `q${n}`,
			deal_id: fields.deal,
			number: `Q-${String(n).padStart(4, "0")}`,
			sent_on: formatDay(fields.sent),
			valid_until: formatDay(fields.valid),
			answered_on: fields.answered === null ? null : formatDay(fields.answered),
			answer: fields.answer,
			amount: minor(fields.amount, fields.currency),
			currency: fields.currency,
		});
	}
}

/** An amount as people write it, in minor units. */
export function minor(amount: number, currency: string): number {
	return parseAmount(String(amount), currency) as number;
}

/** Amounts as people write them: round hundreds, or tens below a thousand. */
export function tidy(amount: number): number {
	const step = amount >= 10_000 ? 500 : amount >= 1000 ? 100 : 10;
	return Math.max(step, Math.round(amount / step) * step);
}
