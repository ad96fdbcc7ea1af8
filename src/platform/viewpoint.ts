import type { Scope } from "@/core/bridge/scope";
import { DAYS_TAKEN, type Day, formatDay, inBounds, parseDay } from "@/core/time/day";
import type { Fiscal } from "@/core/time/fiscal";
import { ALWAYS, formatRange, isMonthKey, type Period, parsePeriod, quarterAt, quarterIndex, quarterOf } from "@/core/time/period";
import { periodWords, spokenDay } from "@/core/time/words";
import { type Mark, teamsUnder } from "@/data/organisation/state";
import type { Context } from "./context";
import { Fault } from "./fault";
import { firstKnown } from "./firstKnown";
import { chosenName } from "./names";
import { peopleIn, reachOf, within } from "./reach";
import { may } from "./rights";

/** The four choices every screen depends on, as they stand in the address; each may be left out. */
export interface ViewpointQuery {
	readonly whose?: string | undefined;
	readonly due?: string | undefined;
	readonly seen?: string | undefined;
	readonly against?: string | undefined;
}

/** The choices resolved: what to compute with, and how it reads. */
export interface Viewpoint {
	readonly whose: { readonly key: string; readonly label: string; readonly scope: Scope };
	/** `key` as it is kept and sent: by its days, never by a quarter's number; `period` null: deals without a close date */
	readonly due: { readonly key: string; readonly label: string; readonly period: Period | null };
	readonly seen: { readonly day: Day; readonly label: string; readonly past: boolean };
	/** `key` as it stands in the address: a day, one of MOMENTS, or null for what is usual */
	readonly against: { readonly key: string | null; readonly day: Day; readonly label: string };
	readonly workingDaysLeft: number | null;
	/** the first day of which anything is known, where one of the days lies before it */
	readonly knownFrom: Day | null;
}

/** Moments to compare with that move along with the seen day. */
export const MOMENTS = ["week", "start", "mark"] as const;

const bad = (detail: string) => new Fault(400, "This address isn’t valid", detail);

/** Resolves the viewpoint within what the person reaches. Throws a 400 for a phrase that can't be read, a 403 for a team out of reach. */
export function resolveViewpoint(context: Context, query: ViewpointQuery): Viewpoint {
	const { rules } = context.organisation.company;
	const seen = seenOf(context, query.seen);
	const due = dueOf(query.due, seen, rules.fiscal);
	const against = againstOf(context, query.against, seen, due.period);
	const first = firstKnown(context.organisation);
	return {
		whose: whoseOf(context, query.whose),
		due,
		seen: { day: seen, label: seen === context.now.day ? "today" : spokenDay(seen, context.now.day), past: seen < context.now.day },
		against,
		workingDaysLeft: due.period && due.period.end !== ALWAYS.end ? Math.max(0, rules.calendar.between(seen, due.period.end)) : null,
		knownFrom: context.organisation.dealIndex.size && against.day < first ? first : null,
	};
}

function seenOf(context: Context, text: string | undefined): Day {
	if (!text) return context.now.day;
	const day = parseDay(text);
	if (day === null) throw bad(`“seen” is ${text}; it must be a day such as ${formatDay(context.now.day)}.`);
	if (!inBounds(text)) throw bad(`“seen” is ${text}; ${DAYS_TAKEN}.`);
	if (day > context.now.day) throw bad(`“seen” is ${text}, and that day is in the future.`);
	return day;
}

function dueOf(text: string | undefined, seen: Day, fiscal: Fiscal): Viewpoint["due"] {
	if (text === "none") return { key: "none", label: "no period: no close date", period: null };
	if (text === "any") return { key: "any", label: "any period", period: ALWAYS };
	const period = text ? parsePeriod(text, fiscal) : quarterOf(seen, fiscal);
	if (!period) throw bad(`“due” is ${text}; it must be a quarter (2026-Q4), a month (2026-11) or two days (2026-10-01..2026-12-31).`);
	return { key: text && isMonthKey(text) ? text : formatRange(period), label: periodWords(period), period };
}

function whoseOf(context: Context, text: string | undefined): Viewpoint["whose"] {
	const { organisation, actor } = context;
	const reach = reachOf(organisation, actor);
	const own = actor.person.team;
	const standard = actor.person.role === "rep" ? `person:${actor.person.id}` : reach === null ? "all" : own ? `team:${own}` : `person:${actor.person.id}`;
	const key = text || standard;
	if (key === "all") return { key, label: reach === null ? "Everyone’s" : "All my", scope: reach };
	const [kind, ...rest] = key.split(":");
	const name = rest.join(":");
	if (kind === "team" && organisation.teams.has(name)) {
		const scope = within(peopleIn(organisation, teamsUnder(organisation, name)), reach);
		if (scope?.size === 0) throw new Fault(403, "Not allowed", `${name} isn’t a team you can see.`);
		return { key, label: `${name} team’s`, scope };
	}
	const index = kind === "person" ? organisation.personIndex.get(name) : undefined;
	if (index === undefined) throw bad(`“whose” is ${key}, and there is no such team or person.`);
	if (reach !== null && !reach.has(index)) throw new Fault(403, "Not allowed", "You can’t see this person’s deals.");
	return { key, label: index === actor.index ? "My" : possessive(chosenName(organisation, index)), scope: new Set([index]) };
}

const possessive = (name: string) => `${name}’s`;

function againstOf(context: Context, asked: string | undefined, seen: Day, period: Period | null): Viewpoint["against"] {
	// Addresses that were kept or sent before call the last mark by its old word.
	const key = asked === "round" ? "mark" : asked;
	const lastMark = lastMarkBefore(context, seen);
	const taken = (day: Day) => ({ key: key ?? null, day, label: spokenDay(day, seen) });
	if (!key) {
		const week = seen - 7;
		const mark = lastMarkBefore(context, week + 1);
		if (mark && mark.day > week - 14) return taken(mark.day);
		// A week ago nothing was known: the oldest mark is as far back as there is something to compare with.
		const oldest = week < firstKnown(context.organisation) ? context.organisation.marks.find((one) => one.day < seen && !isNight(one)) : undefined;
		return taken(oldest?.day ?? week);
	}
	if (key === "week") return { ...taken(seen - 7), label: "a week before" };
	if (key === "start") {
		if (!period || period.start === ALWAYS.start) throw bad("“against” is the start of the period, and this one has none; choose a day instead.");
		if (period.start > seen) throw bad(`“against” is the start of the period, ${formatDay(period.start)}, which is after the day shown, ${formatDay(seen)}.`);
		// What the period began with is what stood at the end of the day before it.
		return { ...taken(period.start - 1), label: "the start of the period" };
	}
	if (key === "mark") {
		if (!lastMark) throw bad(`“against” is the last mark, and none was saved before ${formatDay(seen)}; choose a day instead.`);
		return { ...taken(lastMark.day), label: `${lastMark.name}, ${spokenDay(lastMark.day, seen)}` };
	}
	const day = parseDay(key);
	if (day === null) throw bad(`“against” is ${key}; it must be a day such as ${formatDay(seen - 7)}, or one of ${MOMENTS.join(", ")}.`);
	if (!inBounds(key)) throw bad(`“against” is ${key}; ${DAYS_TAKEN}.`);
	if (day >= seen) throw bad(`“against” is ${key}; it must be before the day shown, ${formatDay(seen)}.`);
	return taken(day);
}

/** The last mark that somebody kept before a day. */
function lastMarkBefore({ organisation }: Context, day: Day) {
	return organisation.marks.findLast((mark) => mark.day < day && !isNight(mark));
}

/** Whether the program kept a mark by itself at a day's end. */
export const isNight = (mark: Mark) => mark.name === NIGHTLY || (mark.byId === null && mark.seal !== null);

/** The name of marks that are kept every night; they are too many to choose from one by one. */
export const NIGHTLY = "Night";

/** What the controls of the viewpoint offer. */
export function viewpointChoices(context: Context, seen: Day) {
	const { organisation, actor } = context;
	const reach = reachOf(organisation, actor);
	const { fiscal } = organisation.company.rules;
	const teams = [...organisation.teams.keys()].filter((team) => {
		const scope = within(peopleIn(organisation, teamsUnder(organisation, team)), reach);
		return actor.person.role !== "rep" && scope !== null && scope.size > 0;
	});
	const people = organisation.people.flatMap((person, i) =>
		person.role === "rep" && (reach === null || reach.has(i))
			? [{ key: `person:${person.id}`, label: chosenName(organisation, i), team: person.team ?? "" }]
			: [],
	);
	const lastMark = lastMarkBefore(context, seen);
	const current = quarterIndex(seen, fiscal);
	const quarters = [-2, -1, 0, 1, 2].map((step) => {
		const period = quarterAt(current + step, fiscal);
		return { key: formatRange(period), label: periodWords(period), start: formatDay(period.start), end: formatDay(period.end) };
	});
	const named = new Map<Day, string>();
	for (const mark of organisation.marks) if (mark.name !== NIGHTLY && mark.day < seen) named.set(mark.day, mark.name);
	const marks = [...named]
		.slice(-10)
		.reverse()
		.map(([day, name]) => ({ key: formatDay(day), label: `${name}, ${spokenDay(day, seen)}` }));
	return {
		everyone: reach === null,
		teams: teams.map((team) => ({ key: `team:${team}`, label: team })),
		people,
		quarters,
		marks,
		/** the last mark before the seen day in words; null where there is none */
		lastMark: lastMark ? `${lastMark.name}, ${spokenDay(lastMark.day, seen)}` : null,
		mayMark: may(actor, "keepMarks"),
	};
}
export type ViewpointChoices = ReturnType<typeof viewpointChoices>;
