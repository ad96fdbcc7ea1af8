import { inARow } from "../spans";
import type { Day } from "../time/day";
import { type Answer, LEVELS } from "./answer";

/** Answers of many deals as columns. */
export interface AnswerColumns {
	readonly at: Float64Array;
	readonly day: Int32Array;
	readonly question: Int16Array;
	/** index in LEVELS */
	readonly level: Int8Array;
}

/** The answers of one deal: the rows `from` to `end` − 1 of some columns. */
export class Answers implements Iterable<Answer> {
	constructor(
		readonly columns: AnswerColumns,
		readonly from: number,
		readonly end: number,
	) {}

	get length(): number {
		return this.end - this.from;
	}

	/** what they say, wherever they are kept */
	toJSON(): Answer[] {
		return [...this];
	}

	*[Symbol.iterator](): Iterator<Answer> {
		const { at, day, question, level } = this.columns;
		for (let row = this.from; row < this.end; row++) {
			yield { question: question[row] as number, level: LEVELS[level[row] as number] as Answer["level"], at: at[row] as number, day: day[row] as Day };
		}
	}
}

/** The answers of some deals, one list a deal, in columns that they share. */
export function packAnswers(lists: readonly Iterable<Answer>[]): Answers[] {
	const { all, spans } = inARow(lists);
	const columns = {
		at: Float64Array.from(all, ({ at }) => at),
		day: Int32Array.from(all, ({ day }) => day),
		question: Int16Array.from(all, ({ question }) => question),
		level: Int8Array.from(all, ({ level }) => LEVELS.indexOf(level)),
	};
	return spans.map(([from, end]) => new Answers(columns, from, end));
}

/** The answers of one deal, in columns of its own. */
export const answersOf = (list: Iterable<Answer>): Answers => packAnswers([list])[0] as Answers;

export const NO_ANSWERS = answersOf([]);
