import { differing, type FieldSetting, fieldOf, stateOf, UNDONE, valueWords } from "@/core/deal/fields";
import { currencySign, wholeAmount } from "@/core/money/words";
import { taskOn } from "@/core/tasks/task";
import { type Day, formatDay, parseDay } from "@/core/time/day";
import { longDay } from "@/core/time/words";
import type { DealAttributes, OrganisationState } from "@/data/organisation/state";
import type { DealRecords } from "@/data/queries/dealRecords";
import { factsOf, noteOn } from "@/features/tasks";
import type { Context } from "@/platform/context";
import { personName } from "@/platform/names";

export interface Happening {
	/** ISO instant */
	readonly at: string;
	readonly day: string;
	readonly kind: "contact" | "internal" | "change" | "answer" | "note" | "task" | "quote";
	/** for contacts: in, out or both */
	readonly direction: string | null;
	readonly what: string;
	readonly detail: string | null;
	readonly by: string | null;
	readonly planned: boolean;
	/** of an activity */
	readonly id: string | null;
}

type Entry = Partial<Omit<Happening, "at" | "day">> & Pick<Happening, "kind" | "what">;
type MakeEntry = (at: Date, rest: Entry) => Happening;

/** The first instant that is later than a day. */
export const endOf = (organisation: OrganisationState, day: number): number => organisation.company.rules.zone.instantAt(day + 1, 0);

/** A question in its newest words, whether it is still asked or not. */
export function promptOf(organisation: OrganisationState, id: string): string {
	for (const edition of [...organisation.company.rules.editions].reverse()) {
		const found = edition.questions.find((question) => question.id === id);
		if (found) return found.prompt;
	}
	return id;
}

/** One timeline of activities, changes, answers, notes, tasks and quotes up to a day, which ends at an instant, newest first; planned ones included. */
export function happeningsOf(context: Context, deal: DealAttributes, records: DealRecords, day: Day, until: number): Happening[] {
	const { organisation } = context;
	const { zone } = organisation.company.rules;
	const entry: MakeEntry = (at, rest) => ({
		direction: null,
		detail: null,
		by: null,
		planned: false,
		id: null,
		...rest,
		at: at.toISOString(),
		day: formatDay(zone.dayOf(at.getTime())),
	});
	const list = [
		...activitiesOf(organisation, records, entry),
		...records.answers.map((answer) =>
			entry(answer.at, {
				kind: "answer",
				what: `${promptOf(organisation, answer.questionId)} ${answer.level === "against" ? "against us" : answer.level}`,
				detail: answer.note,
				by: personName(organisation, answer.byId),
			}),
		),
		...records.notes.map((note) => entry(note.at, { kind: "note", what: note.body, by: personName(organisation, note.byId) })),
		...tasksOf(context, records, day, entry),
		...quotesOf(organisation, records, entry),
		...changesOf(organisation, records, entry),
		...renamesOf(organisation, deal, records, entry),
	];
	return list.filter((item) => item.planned || Date.parse(item.at) < until).sort((a, b) => (a.at < b.at ? 1 : a.at > b.at ? -1 : 0));
}

function activitiesOf(organisation: OrganisationState, records: DealRecords, entry: MakeEntry): Happening[] {
	const names = records.contactNames;
	return records.activities.map((activity) =>
		entry(activity.at, {
			kind: activity.direction === "none" ? "internal" : "contact",
			direction: activity.direction,
			planned: activity.state === "planned",
			what: `${activity.droppedFrom && activity.state !== "planned" ? "Dropped: " : ""}${capital(activity.kind)}: ${activity.subject ?? ""}`,
			detail: activity.body,
			by: [personName(organisation, activity.byId), ...activity.contactIds.map((id) => names.get(id) ?? id)].filter(Boolean).join(", ") || null,
			id: activity.id,
		}),
	);
}

/** Tasks as they stood on the day: given to whoever had them then, and settled as it was said then. */
function tasksOf(context: Context, records: DealRecords, day: Day, entry: MakeEntry): Happening[] {
	const { organisation } = context;
	return records.tasks.flatMap((task) => {
		const { task: facts } = factsOf(context, task);
		const then = taskOn(facts, day);
		const by = organisation.people[then.assignee]?.name ?? null;
		const given = entry(task.createdAt, { kind: "task", what: `Task given: ${task.title}`, by });
		if (Number.isNaN(then.doneAt)) return [given];
		return [given, entry(new Date(then.doneAt), { kind: "task", what: `Task ${then.state}: ${task.title}`, detail: noteOn(facts, task, day), by })];
	});
}

function quotesOf(organisation: OrganisationState, records: DealRecords, entry: MakeEntry): Happening[] {
	const { zone } = organisation.company.rules;
	const noon = (iso: string) => new Date(zone.instantAt(parseDay(iso) ?? 0, 12 * 3_600_000));
	return records.quotes.flatMap((quote) => {
		const name = quote.number ? `Quote ${quote.number}` : "Quote";
		const currency = quote.currency ?? organisation.company.rules.rates.base;
		const amount = quote.amount === null ? "" : `, ${currencySign(currency)}${wholeAmount(quote.amount, currency)}`;
		const valid = quote.validUntil ? `, valid until ${longDay(parseDay(quote.validUntil) ?? 0)}` : "";
		return [
			...(quote.sentOn ? [entry(noon(quote.sentOn), { kind: "quote", what: `${name} sent${amount}${valid}` })] : []),
			...(quote.answeredOn ? [entry(noon(quote.answeredOn), { kind: "quote", what: `${name} answered: ${quote.answer || "yes"}` })] : []),
		];
	});
}

function changesOf(organisation: OrganisationState, records: DealRecords, entry: MakeEntry): Happening[] {
	return records.versions.flatMap((version, i) => {
		const earlier = records.versions[i + 1];
		const by = personName(organisation, version.byId);
		if (!earlier) return [entry(version.validFrom, { kind: "change", what: version.stage === null ? "Removed" : `Opened in ${version.stage}`, by })];
		const setting = ({ currency }: typeof version): FieldSetting => ({
			stages: organisation.company.rules.stages,
			currency: currency ?? organisation.company.rules.rates.base,
			person: (id) => (id === null ? "blank" : (personName(organisation, String(id)) ?? String(id))),
		});
		const said = differing(stateOf(earlier), stateOf(version)).map((key) => {
			const field = fieldOf(key);
			return `${field.label} ${valueWords(field, earlier[key], setting(earlier))} → ${valueWords(field, version[key], setting(version))}`;
		});
		const undone = version.reason === UNDONE;
		const what = `${undone ? "Deleted: " : ""}${said.join("; ")}`;
		return said.length ? [entry(version.validFrom, { kind: "change", what, detail: undone ? null : version.reason, by })] : [];
	});
}

/** When the deal was named otherwise, or given to another account, which is kept from the newest change backwards. */
function renamesOf(organisation: OrganisationState, deal: DealAttributes, { former }: DealRecords, entry: MakeEntry): Happening[] {
	const account = (id: string | null) => organisation.accounts.get(id ?? "")?.name || "none";
	const after: Record<string, string | null> = { name: deal.name, account: deal.accountId };
	return former.flatMap(({ at, field, before }) => {
		if (field !== "name" && field !== "account") return [];
		const now = after[field] ?? null;
		after[field] = before;
		const what = field === "name" ? `Name ${before || "none"} → ${now || "none"}` : `Account ${account(before)} → ${account(now)}`;
		return [entry(at, { kind: "change", what })];
	});
}

const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);
