import { derived } from "../derive";
import { fitted } from "../fitted";
import { roundHalfAway } from "../money/decimal";
import type { Calendar } from "../time/calendar";
import { type Day, NO_DAY } from "../time/day";
import { LEVELS, type Level } from "./answer";
import type { Answers } from "./answers";

/** Points of a level: against us is honest knowledge, but no strength. */
export const LEVEL_POINTS: Readonly<Record<Level, number>> = { unknown: 0, against: 0, assumed: 1, heard: 2, shown: 3 };

export interface Question {
	readonly id: string;
	/** names the question in answers, in whatever edition it stands */
	readonly slot: number;
	readonly area: string;
	readonly prompt: string;
	readonly weight: number;
	/** position of the open stage by which it is due, counted from 1 */
	readonly due: number;
	readonly key: boolean;
}

export interface Standing {
	readonly level: Level;
	/** day of the newest answer, or NO_DAY */
	readonly day: Day;
	readonly due: boolean;
	readonly gap: boolean;
	readonly stale: boolean;
}

export interface Qualification {
	readonly strength: number;
	readonly coverage: number;
	readonly expected: number;
	/** the questions of the edition seen */
	readonly questions: readonly Question[];
	/** by index of question */
	readonly standings: readonly Standing[];
	/** indices of the questions that are gaps: key ones first, then by weight, then in the framework's order */
	readonly gaps: readonly number[];
}

/**
 * Strength, coverage and expected in whole points (0 to 100), and the gaps, for a deal at an open stage
 * position (0: none) seen on a day. `staleAfter` is in working days. Without questions all are 0.
 */
export function scoreOf(
	questions: readonly Question[],
	{ columns, from, end }: Answers,
	position: number,
	seen: Day,
	calendar: Calendar,
	staleAfter: number,
): Qualification {
	/** by slot of the question the row of its newest answer */
	const newest: (number | undefined)[] = [];
	for (let row = from; row < end; row++) {
		const slot = columns.question[row] as number;
		const known = newest[slot];
		if ((columns.day[row] as number) <= seen && (known === undefined || (columns.at[row] as number) >= (columns.at[known] as number))) newest[slot] = row;
	}
	let total = 0;
	let points = 0;
	let asked = 0;
	let due = 0;
	let gapCount = 0;
	const standings: Standing[] = [];
	for (let i = 0; i < questions.length; i++) {
		const question = questions[i] as Question;
		const answer = newest[question.slot];
		const place = answer === undefined ? UNKNOWN : (columns.level[answer] as number);
		const level = LEVELS[place] as Level;
		const day = answer === undefined ? NO_DAY : (columns.day[answer] as Day);
		const isDue = question.due <= position;
		const gap = isDue && LEVEL_POINTS[level] < LEVEL_POINTS.heard;
		total += question.weight;
		points += question.weight * LEVEL_POINTS[level];
		if (level !== "unknown") asked += question.weight;
		if (isDue) due += question.weight;
		if (gap) gapCount++;
		standings.push(standingOf(place, day, isDue, gap, answer !== undefined && level !== "unknown" && calendar.between(day, seen) > staleAfter));
	}
	return {
		strength: share(points, 3 * total),
		coverage: share(asked, total),
		expected: share(2 * due, 3 * total),
		questions,
		standings: fitted(standings),
		gaps: gapCount ? fitted(gapOrder(questions).filter((i) => (standings[i] as Standing).gap)) : NO_GAPS,
	};
}

/**
 * `scoreOf` for many days of one deal, kept for as long as nothing it is made of differs: the edition, the stage’s position,
 * the answers given by the day, and which of them are stale.
 */
export function scoresOf(
	answers: Answers,
	calendar: Calendar,
): (questions: readonly Question[], position: number, seen: Day, staleAfter: number) => Qualification {
	let score: Qualification | null = null;
	let [scoredPosition, scoredStale] = [0, 0];
	/** no answer was given from the first of these days on until before the second */
	let [given, next] = [NO_DAY, NO_DAY];
	/** the oldest answer that isn’t stale and the newest that is, where there are any */
	let [fresh, stale] = [NO_DAY, NO_DAY];
	return (questions, position, seen, staleAfter) => {
		if (
			score?.questions === questions &&
			scoredPosition === position &&
			scoredStale === staleAfter &&
			seen >= given &&
			(next === NO_DAY || seen < next) &&
			(fresh === NO_DAY || calendar.between(fresh, seen) <= staleAfter) &&
			(stale === NO_DAY || calendar.between(stale, seen) > staleAfter)
		)
			return score;
		score = scoreOf(questions, answers, position, seen, calendar, staleAfter);
		[scoredPosition, scoredStale] = [position, staleAfter];
		[given, next] = [NO_DAY, NO_DAY];
		for (let row = answers.from; row < answers.end; row++) {
			const day = answers.columns.day[row] as Day;
			if (day <= seen) given = Math.max(given, day);
			else next = next === NO_DAY ? day : Math.min(next, day);
		}
		[fresh, stale] = [NO_DAY, NO_DAY];
		for (const standing of score.standings) {
			if (standing.stale) stale = Math.max(stale, standing.day);
			else if (standing.level !== "unknown") fresh = fresh === NO_DAY ? standing.day : Math.min(fresh, standing.day);
		}
		return score;
	};
}

const UNKNOWN = LEVELS.indexOf("unknown");

const standings = new Map<number, Standing>();

/** A standing of a question, each once: deals have a dozen of them, on every day that is looked at, and few differ. */
function standingOf(level: number, day: Day, due: boolean, gap: boolean, stale: boolean): Standing {
	const key = day * 64 + level * 8 + (due ? 4 : 0) + (gap ? 2 : 0) + (stale ? 1 : 0);
	const known = standings.get(key);
	if (known) return known;
	const made: Standing = { level: LEVELS[level] as Level, day, due, gap, stale };
	standings.set(key, made);
	return made;
}

const NO_GAPS: readonly number[] = [];
const share = (part: number, whole: number) => (whole > 0 ? roundHalfAway((100 * part) / whole) : 0);

/** Indices of questions in the order in which gaps are listed. */
const gapOrder = derived("gap order", (questions: readonly Question[]): readonly number[] => {
	const of = (i: number) => questions[i] as Question;
	return questions.map((_, i) => i).sort((a, b) => Number(of(b).key) - Number(of(a).key) || of(b).weight - of(a).weight || a - b);
});
