import { type Day, formatDay, parseDay } from "../../core/time/day";
import type { Value } from "../../formats/bundle/model";
import type { BundleFile } from "../../formats/bundle/spec";
import type { OutRow } from "../../formats/bundle/write";
import { Chance } from "./almanac";
import { CAST } from "./cast";
import type { Ledger } from "./ledger";
import { NOTES, PLAN_STEPS, PUSH_REASONS, STAGES } from "./words";

type Fields = Record<string, Value>;
/** The question that hardly anybody asks. */
const SELDOM = "nothing";

/**
 * What people write beside the figures, once the deals have been lived: why a date was pushed and by whom,
 * who else took part in a talk, what shows an answer, notes, plans to the signature, answers to quotes.
 */
export function addAsides(ledger: Ledger, seed: string): void {
	const rows = (file: BundleFile) => (ledger.rows.get(file) ?? []).map((row) => row.fields as Fields);
	const versions = groupBy(rows("deal_versions.csv"), "deal_id");
	const activities = groupBy(rows("activities.csv"), "deal_id");
	const quotes = groupBy(rows("quotes.csv"), "deal_id");
	const answers = groupBy(rows("answers.csv"), "deal_id");
	const inAccount = groupBy(rows("contacts.csv"), "account_id");
	const onDeal = groupBy(rows("deal_contacts.csv"), "deal_id");
	const dropped = new Set<Fields>();
	for (const deal of rows("deals.csv")) {
		const id = String(deal.id);
		const chance = new Chance(`${seed} ${id} aside`);
		const story = id.startsWith("story");
		const own = versions.get(id) ?? [];
		explainMoves(chance, own);
		const known = (onDeal.get(id) ?? []).map((row) => String(row.contact_id));
		if (!story) {
			// Whoever signs is on a deal from its beginning or isn't.
			const others = (inAccount.get(String(deal.account_id)) ?? [])
				.filter((row) => row.buying_role !== "decision_maker" && !known.includes(String(row.id)))
				.map((row) => String(row.id));
			if (known.length && others[0] && chance.yes(0.8)) {
				ledger.add("deal_contacts.csv", { deal_id: id, contact_id: others[0] });
				known.push(others[0]);
			}
			mixContacts(chance, known, activities.get(id) ?? []);
			runAhead(chance, own, activities.get(id) ?? []);
			answerQuotes(ledger, chance, own, quotes.get(id) ?? []);
			for (const answer of answers.get(id) ?? []) if (answer.question_id === SELDOM && !chance.yes(0.05)) dropped.add(answer);
		}
		showBy(answers.get(id) ?? [], activities.get(id) ?? []);
		const last = own.at(-1);
		if (last && isOpen(last)) {
			if (story || chance.yes(0.2)) addNote(ledger, chance, id, last);
			if (last.stage === "Terms" || (last.stage === "Proposal" && chance.yes(0.4))) addPlan(ledger, chance, id, last);
		}
	}
	ledger.rows.set(
		"answers.csv",
		(ledger.rows.get("answers.csv") ?? []).filter((row: OutRow) => !dropped.has(row.fields as Fields)),
	);
}

function groupBy(list: readonly Fields[], name: string): Map<string, Fields[]> {
	const groups = new Map<string, Fields[]>();
	for (const fields of list) {
		const key = String(fields[name]);
		const group = groups.get(key);
		if (group) group.push(fields);
		else groups.set(key, [fields]);
	}
	return groups;
}

const isOpen = (version: Fields) => STAGES.some((stage) => stage.name === version.stage);
const dayOf = (value: Value | undefined): Day => parseDay(String(value).slice(0, 10)) ?? 0;

/** Who moved it, and for most pushes why. */
function explainMoves(chance: Chance, versions: readonly Fields[]): void {
	versions.forEach((version, i) => {
		const before = versions[i - 1];
		version.by_id = version.owner_id ?? null;
		const pushed = before?.close_date && version.close_date && String(version.close_date) > String(before.close_date) && isOpen(version);
		version.reason = pushed && chance.yes(0.85) ? chance.pick(PUSH_REASONS) : null;
	});
}

function mixContacts(chance: Chance, known: readonly string[], activities: readonly Fields[]): void {
	for (const activity of activities) {
		const present = activity.contact_ids as string[];
		if (present.length === 1 && known.length > 1 && chance.yes(0.4)) activity.contact_ids = [chance.pick(known)];
	}
}

/** Now and then a trial has taken place although the record still stands at the survey. */
function runAhead(chance: Chance, versions: readonly Fields[], activities: readonly Fields[]): void {
	const last = versions.at(-1);
	if (!last || (last.stage !== "Enquiry" && last.stage !== "Site survey") || !chance.yes(0.3)) return;
	const began = versions.findLast((version, i) => version.stage === last.stage && versions[i - 1]?.stage !== last.stage);
	const talk = activities.findLast((activity) => activity.direction === "both" && activity.state === "done" && String(activity.at) > String(began?.at));
	if (!talk) return;
	talk.kind = "demo";
	talk.subject = "Tried their own dough in our test kitchen";
}

function answerQuotes(ledger: Ledger, chance: Chance, versions: readonly Fields[], quotes: readonly Fields[]): void {
	const won = versions.at(-1)?.stage === "Won";
	for (const quote of quotes) {
		if (!won && !chance.yes(0.4)) continue;
		const day = ledger.almanac.calendar.add(dayOf(quote.sent_on), chance.whole(2, 14));
		if (day > ledger.almanac.today) continue;
		quote.answered_on = formatDay(day);
		quote.answer = won ? "accepted" : chance.pick(["asks for changes", "to the board", "too dear"]);
	}
}

/** What was shown was shown in the last talk before. */
function showBy(answers: readonly Fields[], activities: readonly Fields[]): void {
	for (const answer of answers) {
		if (answer.level !== "shown") continue;
		const talk = activities.findLast((activity) => activity.direction === "both" && activity.state === "done" && String(activity.at) <= String(answer.at));
		answer.shown_by = talk ? `activity:${talk.id}` : null;
	}
}

function addNote(ledger: Ledger, chance: Chance, deal: string, last: Fields): void {
	const rep = CAST.find((member) => member.id === last.owner_id);
	if (!rep || rep.habit === "left") return;
	const manager = CAST.find((member) => member.role === "manager" && member.team === rep.team) ?? rep;
	const day = ledger.almanac.back(ledger.almanac.today, chance.whole(1, 12));
	if (formatDay(day) < String(last.at).slice(0, 10)) return;
	ledger.add("notes.csv", {
		id: `n-${deal}`,
		deal_id: deal,
		at: ledger.almanac.at(day, chance.whole(440, 520)),
		by_id: manager.id,
		body: chance.pick(NOTES).replace("{name}", `@${rep.name}`),
		mentions: [rep.id],
	});
}

/** Steps on the way to the close date, evenly spread; those that lie behind are mostly done. */
function addPlan(ledger: Ledger, chance: Chance, deal: string, last: Fields): void {
	if (!last.close_date) return;
	const { calendar, today, back } = ledger.almanac;
	const close = dayOf(last.close_date);
	PLAN_STEPS.forEach(([title, side], i) => {
		const due = back(close, (PLAN_STEPS.length - 1 - i) * 6);
		const last = i === PLAN_STEPS.length - 1;
		const done = due < today && chance.yes(0.75) && !last ? calendar.add(due, chance.whole(0, 2)) : null;
		ledger.add("close_plan_steps.csv", {
			id: `p-${deal}-${i + 1}`,
			deal_id: deal,
			title,
			due_on: formatDay(due),
			side,
			done_on: done !== null && done <= today ? formatDay(done) : null,
		});
	});
}
