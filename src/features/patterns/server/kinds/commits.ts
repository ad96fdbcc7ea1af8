import { ownerIn } from "@/core/bridge/scope";
import { grouped as count } from "@/core/money/words";
import { dueOver } from "@/core/patterns/due";
import { openDaysWithin, pushesWithin } from "@/core/patterns/pushes";
import { lastPeriods } from "@/core/patterns/quarters";
import { accuracyOf } from "@/core/patterns/records";
import { shareWords } from "@/core/statistics/shareWords";
import { quarterOf } from "@/core/time/period";
import { periodWords } from "@/core/time/words";
import { callsTold } from "@/features/rounds";
import { Book, lookedView, patternKind } from "../book";
import { callsTable } from "../commits/callsTable";
import { groundWords, todayBy } from "../commits/cells";
import { PUSH_DAYS, pushTable, pushWords } from "../commits/pushes";
import { type CommitGround, isWeak, quartersTable, type RepLine, repLines, repsTable } from "../commits/reps";
import { percent } from "../words";

/** Whose commits held: by rep, by count and by amount, through the quarters, and by the calls of rounds; and who pushes when. */
export const commits = patternKind({
	key: "commits",
	label: "Commits",
	ofReader: true,
	async read(context, asked) {
		const { scope, day, look } = asked;
		const { company } = context.organisation;
		const list = lastPeriods(company, "quarter", day, look.quarters, look.lead);
		const book = new Book();
		const current = quarterOf(day, company.rules.fiscal);
		const ground: CommitGround = {
			context,
			book,
			scope,
			list,
			due: dueOver(company, list, scope),
			dueNow: periodWords(current),
			commit: accuracyOf(company, list, "commit", scope),
			best: accuracyOf(company, list, "best_case", scope),
			today: todayBy(context, asked, current),
		};
		const lines = repLines(ground);
		const pushes = pushesWithin(company, day, PUSH_DAYS).filter(({ owner }) => ownerIn(scope, owner));
		return {
			openings: book.openings,
			view: {
				...headlineOf(ground, lines, pushWords(context, pushes)),
				about: null,
				rests: [count(ground.commit.count.n), `in commit, ${ground.commit.count.k} won in time`],
				looked: lookedView(list),
				groupings: [],
				by: null,
				currency: company.rules.rates.base,
				tables: [
					repsTable(ground, lines),
					quartersTable(ground),
					callsTable(context, book, scope, await callsTold(context, day)),
					pushTable(context, book, pushes, openDaysWithin(company, day, PUSH_DAYS)),
				],
			},
		};
	},
});

function headlineOf({ context, commit, today, dueNow }: CommitGround, lines: readonly RepLine[], pushed: string): { headline: string; beside: string[] } {
	const { base } = context.organisation.company.rules.rates;
	const weak = lines.filter(isWeak).sort((a, b) => (a.commit.count.share ?? 0) - (b.commit.count.share ?? 0));
	const shaky = weak.flatMap((one) => one.today);
	const [first] = weak;
	return {
		headline: first
			? `Of ${first.name}’s commits ${shareWords(first.commit.count)} came true in time, of others’ ${shareWords(first.others)}`
			: commit.count.share === null
				? "Too few deals in commit to say how many came true"
				: `${shareWords(commit.count)} of what was in commit was won in time${commit.amount.share === null ? "" : `, ${percent(commit.amount.share)} by amount`}`,
		beside: [
			today.size ? groundWords(shaky, [...today.values()].flat(), weak.length, base, dueNow) : "",
			pushed,
			"Reps have different deals: a lower share doesn’t show why.",
		].filter(Boolean),
	};
}
