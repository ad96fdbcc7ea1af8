import { type Day, formatDay, parseDay } from "../../core/time/day";
import type { Value } from "../../formats/bundle/model";
import type { BundleFile } from "../../formats/bundle/spec";
import { Chance } from "./almanac";
import type { Ledger } from "./ledger";

type Fields = Record<string, Value>;

const dayOf = (value: Value | undefined): Day => parseDay(String(value).slice(0, 10)) ?? 0;

/** so many were asked again on the way, by what became of them: with these shares old answers foretell nothing */
const ASKED_AGAIN: Readonly<Record<string, number>> = { Won: 0.3, Lost: 0.15 };
/** calendar days before the end */
const BEFORE_END = 40;
/** of lost deals so many have a reply that nobody gave */
const NEGLECTED = 0.6;
/** calendar days for which nobody answered, and from the loss back to the earliest day on which that counts */
const SILENT = 45;
const RECENT = 330;

/** calendar days before the win from which on what is given away is given, and within which it is looked for */
const LATE = 7;
const TERMS = 40;

/** What has become of deals that are closed: discounts given in the last days, answers confirmed again, and replies that were never given because nobody was asked to. */
export function addOldHabits(ledger: Ledger, seed: string): void {
	const rows = (file: BundleFile) => (ledger.rows.get(file) ?? []).map((row) => row.fields as Fields);
	const last = new Map(rows("deal_versions.csv").map((version) => [String(version.deal_id), version]));
	giveLate(rows("deal_versions.csv"), last);
	confirmAnswers(ledger, seed, last, rows("answers.csv"));
	neglectReplies(ledger, seed, last, rows("activities.csv"));
}

/** What won deals gave away towards their end was given in the very last days. */
function giveLate(versions: readonly Fields[], last: ReadonlyMap<string, Fields>): void {
	const before = new Map<string, Value | undefined>();
	const held = new Map<string, Value | undefined>();
	for (const version of versions) {
		const id = String(version.deal_id);
		const end = last.get(id);
		const was = before.get(id);
		before.set(id, version.amount);
		if (end?.stage !== "Won" || version === end) continue;
		const left = dayOf(end.at) - dayOf(version.at);
		if (left <= TERMS && typeof was === "number" && typeof version.amount === "number" && version.amount < was) held.set(id, was);
		const full = held.get(id);
		if (full !== undefined && left > LATE) version.amount = full;
	}
}

function confirmAnswers(ledger: Ledger, seed: string, last: ReadonlyMap<string, Fields>, answers: readonly Fields[]): void {
	const newest = new Map<string, Fields>();
	for (const answer of answers) newest.set(`${answer.deal_id} ${answer.question_id}`, answer);
	for (const answer of newest.values()) {
		const id = String(answer.deal_id);
		const end = last.get(id);
		if (!end || !new Chance(`${seed} ${id} asked again`).yes(ASKED_AGAIN[String(end.stage)] ?? 0)) continue;
		const on = ledger.almanac.calendar.lastOnOrBefore(dayOf(end.at) - BEFORE_END);
		if (dayOf(answer.at) >= on) continue;
		ledger.answer(id, String(answer.question_id), String(answer.level), on, 300, end.owner_id as string | null, "Asked again: still so");
	}
}

function neglectReplies(ledger: Ledger, seed: string, last: ReadonlyMap<string, Fields>, activities: readonly Fields[]): void {
	const { today } = ledger.almanac;
	const silent = new Map<string, { readonly from: string; readonly to: string }>();
	for (const activity of activities) {
		const id = String(activity.deal_id);
		const end = last.get(id);
		if (end?.stage !== "Lost" || activity.direction !== "in" || !new Chance(`${seed} ${id} neglected`).yes(NEGLECTED)) continue;
		const [said, closed] = [dayOf(activity.at), dayOf(end.at)];
		// The last that they said so long before the end is the one that nobody answers.
		if (closed - said >= SILENT && closed > today - RECENT) silent.set(id, { from: String(activity.at), to: formatDay(said + SILENT) });
	}
	const within = (id: Value | undefined, at: Value | undefined) => {
		const span = silent.get(String(id));
		return span !== undefined && String(at) > span.from && String(at).slice(0, 10) <= span.to;
	};
	const keep = (file: BundleFile, holds: (fields: Fields) => boolean) =>
		ledger.rows.set(
			file,
			(ledger.rows.get(file) ?? []).filter((row) => holds(row.fields as Fields)),
		);
	keep("activities.csv", (one) => !within(one.deal_id, one.at) || one.direction === "none");
	keep("tasks.csv", (one) => !(one.flags as string[]).includes("reply-owed") || !within(one.deal_id, one.created_at));
}
