import { type ComparedField, FIELD_NAMES, fieldChanges } from "../core/bridge/compare";
import type { Flag } from "../core/flags/rule";
import { asOf, CATEGORIES, NONE } from "../core/history/columns";
import { amountBaseOf, type DealSeen } from "../core/inspect";
import { currencySign, wholeAmount } from "../core/money/words";
import { worksOn } from "../core/people/person";
import { defaultDue } from "../core/tasks/task";
import { formatDay, isoOrNull, NO_DAY, parseDay } from "../core/time/day";
import { quarterIndex, quarterOf } from "../core/time/period";
import { longDay } from "../core/time/words";
import type { Memory } from "../data/memory/memory";
import type { Context } from "./context";
import { contactNames, type DealRecords, readRecords } from "./dealRecords";
import { notFound } from "./fault";
import { accountName, ownerName } from "./readDeals";
import { demand, may, reaches, reachOf } from "./rights";
import { surveyOn } from "./survey";

export interface Happening {
	/** ISO instant */
	readonly at: string;
	readonly day: string;
	readonly kind: "contact" | "internal" | "change" | "answer" | "task";
	/** for contacts: in, out or both */
	readonly direction: string | null;
	readonly what: string;
	readonly detail: string | null;
	readonly by: string | null;
	readonly planned: boolean;
}

export interface SheetTask {
	readonly id: string;
	readonly title: string;
	readonly assignee: string;
	readonly due: string | null;
	readonly state: string;
	readonly late: boolean;
}

/** Everything the sheet of a deal shows, seen on a day against an earlier one. */
export interface SheetView {
	readonly id: string;
	readonly name: string;
	readonly account: string;
	readonly customer: string | null;
	readonly owner: string;
	readonly ownerActive: boolean;
	readonly source: string | null;
	readonly competitor: string | null;
	readonly outcomeReason: string | null;
	readonly status: string;
	readonly stage: string;
	readonly category: string | null;
	/** base minor units, and as written */
	readonly amount: number;
	readonly ownAmount: number | null;
	readonly ownCurrency: string;
	readonly baseCurrency: string;
	readonly close: string | null;
	readonly nextStep: string | null;
	readonly nextStepDay: string | null;
	readonly seen: string;
	readonly against: string;
	readonly past: boolean;
	readonly flags: readonly Flag[];
	readonly attention: DealSeen["attention"] & { readonly median: number };
	readonly qualification: {
		readonly strength: number;
		readonly coverage: number;
		readonly expected: number;
		readonly questions: readonly {
			readonly id: string;
			readonly area: string;
			readonly prompt: string;
			readonly weight: number;
			readonly key: boolean;
			readonly due: boolean;
			readonly level: string;
			readonly day: string | null;
			readonly gap: boolean;
			readonly stale: boolean;
			readonly note: string | null;
		}[];
	};
	readonly trail: {
		readonly points: readonly { set: string; close: string }[];
		readonly pushes: number;
		readonly pulls: number;
		readonly pushedDays: number;
		readonly netDays: number;
		readonly crossings: number;
		readonly quarterEnds: readonly string[];
	};
	readonly visits: readonly {
		readonly stage: string;
		readonly from: string;
		readonly to: string;
		readonly finished: boolean;
		readonly length: number;
		readonly usual: number;
		readonly limit: number;
		readonly measured: boolean;
		readonly sample: number;
	}[];
	readonly dealAge: number;
	readonly created: string;
	readonly changes: readonly { readonly field: string; readonly before: string | number | null; readonly after: string | number | null }[];
	readonly changedAmounts: { readonly before: number | null; readonly after: number };
	readonly newSince: boolean;
	readonly lit: readonly string[];
	readonly wentOut: readonly string[];
	readonly lastTouch: string | null;
	readonly lastTouchDays: number | null;
	readonly waiting: { readonly side: string; readonly since: string; readonly days: number } | null;
	readonly people: readonly { readonly name: string; readonly title: string | null; readonly role: string | null; readonly last: string | null }[];
	readonly quotes: readonly { readonly number: string | null; readonly sent: string | null; readonly valid: string | null; readonly answer: string | null }[];
	readonly lines: readonly {
		readonly product: string | null;
		readonly quantity: string | null;
		readonly list: number | null;
		readonly sold: number | null;
		readonly currency: string | null;
	}[];
	readonly happenings: readonly Happening[];
	readonly tasks: readonly SheetTask[];
	readonly mayAssign: boolean;
	readonly due: string;
}

/** The sheet of one deal. Throws 404 when it isn't there on that day, or belongs to someone out of reach. */
export async function readSheet(context: Context, id: string, seenText: string, againstText: string): Promise<SheetView> {
	demand(context.actor, "readDeals");
	const { memory } = context;
	const { company } = memory;
	const { calendar, fiscalStart, stages, rates } = company.rules;
	const day = parseDay(seenText) ?? context.now.day;
	const against = parseDay(againstText) ?? day - 7;
	const deal = memory.dealIndex.get(id);
	const survey = surveyOn(company, day);
	const seen = deal === undefined ? null : survey.deals[deal];
	if (deal === undefined || !seen || !reaches(reachOf(memory, context.actor), seen.owner)) throw notFound("deal", id);

	const name = memory.deals[deal] as Memory["deals"][number];
	const account = memory.accounts.get(name.accountId ?? "");
	const records = await readRecords(id);
	const { history } = company;
	const rowA = asOf(history, deal, against);
	const before = surveyOn(company, against).deals[deal] ?? null;
	const own = history.amount[seen.row] as number;
	const codes = (list: readonly Flag[]) => list.map((flag) => flag.code);
	const owner = memory.people[seen.owner];
	const until = endOf(memory, day);
	const notes = new Map<string, string | null>();
	for (const answer of records.answers) {
		if (answer.at.getTime() < until && !notes.has(answer.questionId)) notes.set(answer.questionId, answer.note);
	}

	return {
		id,
		name: name.name || "No name",
		account: accountName(memory, deal),
		customer: account?.kind ?? null,
		owner: ownerName(memory, seen.owner),
		ownerActive: owner !== undefined && worksOn(owner, day),
		source: name.source,
		competitor: name.competitor,
		outcomeReason: name.outcomeReason,
		status: seen.status,
		stage: stages[seen.stageIndex]?.name ?? "",
		category: CATEGORIES[history.category[seen.row] as number] ?? null,
		amount: seen.amountBase,
		ownAmount: Number.isNaN(own) ? null : own,
		ownCurrency: company.rules.currencies[history.currency[seen.row] as number] ?? rates.base,
		baseCurrency: rates.base,
		close: isoOrNull(seen.close),
		nextStep: history.nextStep[seen.row] || null,
		nextStepDay: isoOrNull(history.nextStepDay[seen.row] as number),
		seen: formatDay(day),
		against: formatDay(against),
		past: day < context.now.day,
		flags: seen.flags,
		attention: { ...seen.attention, median: survey.norms.medianAmount },
		qualification: {
			strength: seen.qualification.strength,
			coverage: seen.qualification.coverage,
			expected: seen.qualification.expected,
			questions: seen.qualification.questions.map((question, i) => {
				const standing = seen.qualification.standings[i] as DealSeen["qualification"]["standings"][number];
				return {
					id: question.id,
					area: question.area,
					prompt: question.prompt,
					weight: question.weight,
					key: question.key,
					due: standing.due,
					level: standing.level,
					day: isoOrNull(standing.day),
					gap: standing.gap,
					stale: standing.stale,
					note: notes.get(question.id) ?? null,
				};
			}),
		},
		trail: { ...trailView(seen, day, fiscalStart) },
		visits: seen.path.visits.map((visit) => {
			const usual = survey.norms.usual.stages[visit.stage];
			return {
				stage: stages[visit.stage]?.name ?? "",
				from: formatDay(visit.from),
				to: formatDay(visit.to),
				finished: visit.finished,
				length: visit.length,
				usual: usual?.half.days ?? 0,
				limit: usual?.threeQuarters.days ?? 0,
				measured: usual?.half.measured ?? false,
				sample: usual?.half.sample ?? 0,
			};
		}),
		dealAge: seen.dealAge,
		created: formatDay(company.deals[deal]?.createdDay ?? 0),
		changes: fieldChanges(company, rowA, seen.row).map((change) => ({
			field: change.field,
			before: change.field === "owner" ? ownerName(memory, (change.before ?? NONE) as number) : change.before,
			after: change.field === "owner" ? ownerName(memory, (change.after ?? NONE) as number) : change.after,
		})),
		changedAmounts: { before: rowA < 0 ? null : amountBaseOf(company, rowA, day), after: seen.amountBase },
		newSince: rowA < 0,
		lit: codes(seen.flags).filter((code) => !codes(before?.flags ?? []).includes(code)),
		wentOut: (before?.flags ?? []).filter((flag) => !codes(seen.flags).includes(flag.code)).map((flag) => flag.label),
		lastTouch: isoOrNull(seen.contact.lastTouch),
		lastTouchDays: seen.contact.lastTouch === NO_DAY ? null : calendar.between(seen.contact.lastTouch, day),
		waiting: seen.contact.waiting
			? { side: seen.contact.waiting.side, since: formatDay(seen.contact.waiting.since), days: calendar.between(seen.contact.waiting.since, day) }
			: null,
		people: records.contacts.map((contact) => {
			const last = records.activities.find(
				(activity) => activity.state === "done" && activity.direction !== "none" && activity.contactIds.includes(contact.id) && activity.at.getTime() < until,
			);
			return { name: contact.name, title: contact.title, role: contact.buyingRole, last: last ? formatDay(company.rules.zone.dayOf(last.at.getTime())) : null };
		}),
		quotes: records.quotes
			.filter((quote) => !quote.sentOn || quote.sentOn <= formatDay(day))
			.map((quote) => ({
				number: quote.number,
				sent: quote.sentOn,
				valid: quote.validUntil,
				answer: quote.answeredOn && quote.answeredOn <= formatDay(day) ? quote.answer || "answered" : null,
			})),
		lines: records.lines.map((line) => ({
			product: line.product,
			quantity: line.quantity,
			list: line.listPrice,
			sold: line.unitPrice,
			currency: line.currency,
		})),
		happenings: await happeningsOf(memory, records, until),
		tasks: tasksOf(memory, records, day),
		mayAssign: may(context.actor, "assignTasks") && day === context.now.day && seen.status === "open",
		due: formatDay(defaultDue(calendar, day, quarterOf(day, fiscalStart))),
	};
}

/** A question in its newest words, whether it is still asked or not. */
function promptOf(memory: Memory, id: string): string | null {
	for (const edition of [...memory.company.rules.editions].reverse()) {
		const found = edition.questions.find((question) => question.id === id);
		if (found) return found.prompt;
	}
	return null;
}

/** The first instant that is later than a day. */
const endOf = (memory: Memory, day: number) => memory.company.rules.zone.instantAt(day + 1, 0);

function trailView(seen: DealSeen, day: number, fiscalStart: number) {
	const { points, pushes, pulls, pushedDays, netDays, crossings } = seen.trail;
	const dates = [...points.map((p) => p.close), day];
	const ends: string[] = [];
	if (points.length) {
		const last = quarterIndex(Math.max(...dates), fiscalStart);
		for (let at = Math.min(...dates); quarterIndex(at, fiscalStart) <= last; ) {
			const { end } = quarterOf(at, fiscalStart);
			ends.push(formatDay(end));
			at = end + 1;
		}
	}
	return {
		points: points.map((p) => ({ set: formatDay(p.set), close: formatDay(p.close) })),
		pushes,
		pulls,
		pushedDays,
		netDays,
		crossings,
		quarterEnds: ends,
	};
}

function tasksOf(memory: Memory, records: DealRecords, day: number): SheetTask[] {
	const { zone } = memory.company.rules;
	const shown = formatDay(day);
	return records.tasks
		.filter((task) => zone.dayOf(task.createdAt.getTime()) <= day)
		.map((task) => {
			const openThen = task.state === "open" || (task.doneAt !== null && zone.dayOf(task.doneAt.getTime()) > day);
			return {
				id: task.id,
				title: task.title,
				assignee: ownerName(memory, memory.personIndex.get(task.assigneeId ?? "") ?? NONE),
				due: task.dueOn,
				state: openThen ? "open" : task.state,
				late: openThen && task.dueOn !== null && task.dueOn < shown,
			};
		});
}

/** One timeline of activities, changes, answers and tasks up to an instant, newest first; planned ones included. */
async function happeningsOf(memory: Memory, records: DealRecords, until: number): Promise<Happening[]> {
	const { zone } = memory.company.rules;
	const who = (id: string | null) => (id ? (memory.people[memory.personIndex.get(id) ?? NONE]?.name ?? null) : null);
	const names = await contactNames([...new Set(records.activities.flatMap((activity) => activity.contactIds))]);
	const entry = (at: Date, rest: Omit<Happening, "at" | "day">): Happening => ({ at: at.toISOString(), day: formatDay(zone.dayOf(at.getTime())), ...rest });
	const list: Happening[] = [];
	for (const activity of records.activities) {
		const planned = activity.state === "planned";
		if (!planned && activity.at.getTime() >= until) continue;
		const people = activity.contactIds.map((id) => names.get(id) ?? id);
		list.push(
			entry(activity.at, {
				kind: activity.direction === "none" ? "internal" : "contact",
				direction: activity.direction,
				planned,
				what: `${capital(activity.kind)}: ${activity.subject ?? ""}`,
				detail: activity.body,
				by: [who(activity.byId), ...people].filter(Boolean).join(", ") || null,
			}),
		);
	}
	for (const answer of records.answers) {
		if (answer.at.getTime() >= until) continue;
		const prompt = promptOf(memory, answer.questionId) ?? answer.questionId;
		list.push(
			entry(answer.at, {
				kind: "answer",
				direction: null,
				planned: false,
				what: `${prompt} ${answer.level === "against" ? "against us" : answer.level}`,
				detail: answer.note,
				by: who(answer.byId),
			}),
		);
	}
	for (const task of records.tasks) {
		if (task.createdAt.getTime() < until)
			list.push(
				entry(task.createdAt, { kind: "task", direction: null, planned: false, what: `Task given: ${task.title}`, detail: null, by: who(task.assigneeId) }),
			);
		if (task.doneAt && task.doneAt.getTime() < until)
			list.push(
				entry(task.doneAt, {
					kind: "task",
					direction: null,
					planned: false,
					what: `Task ${task.state}: ${task.title}`,
					detail: task.note,
					by: who(task.assigneeId),
				}),
			);
	}
	list.push(...changeHappenings(memory, records, until, entry));
	return list.sort((a, b) => (a.at < b.at ? 1 : a.at > b.at ? -1 : 0));
}

function changeHappenings(
	memory: Memory,
	records: DealRecords,
	until: number,
	entry: (at: Date, rest: Omit<Happening, "at" | "day">) => Happening,
): Happening[] {
	const versions = records.versions.filter((version) => version.validFrom.getTime() < until);
	const who = (id: string | null) => memory.people[memory.personIndex.get(id ?? "") ?? NONE]?.name ?? null;
	return versions.flatMap((version, i) => {
		const earlier = versions[i + 1];
		if (!earlier)
			return [
				entry(version.validFrom, { kind: "change", direction: null, planned: false, what: `Opened in ${version.stage}`, detail: null, by: who(version.byId) }),
			];
		const fields: [keyof typeof version, string][] = [
			["stage", "stage"],
			["amount", "amount"],
			["closeDate", "closeDate"],
			["ownerId", "owner"],
			["category", "category"],
			["nextStep", "nextStep"],
			["nextStepDate", "nextStepDate"],
		];
		const said = fields.flatMap(([column, field]) => {
			const [was, is] = [earlier[column], version[column]];
			if (was === is) return [];
			const show = (value: unknown) => fieldWords(field, value, version.currency ?? memory.company.rules.rates.base, who);
			return [`${FIELD_NAMES[field as ComparedField]} ${show(was)} → ${show(is)}`];
		});
		return said.length
			? [entry(version.validFrom, { kind: "change", direction: null, planned: false, what: said.join("; "), detail: null, by: who(version.byId) })]
			: [];
	});
}

function fieldWords(field: string, value: unknown, currency: string, who: (id: string | null) => string | null): string {
	if (value === null || value === "") return "blank";
	if (field === "amount") return `${currencySign(currency)}${wholeAmount(Number(value), currency)}`;
	if (field === "owner") return who(String(value)) ?? String(value);
	if (field === "closeDate" || field === "nextStepDate") return longDay(parseDay(String(value)) ?? 0);
	return String(value).replaceAll("_", " ");
}

const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);
