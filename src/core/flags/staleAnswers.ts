import { derived } from "../derive";
import type { Qualification, Question } from "../qualification/score";
import { type Day, formatDay, NO_DAY } from "../time/day";
import { shortDay, workingDays } from "../time/words";
import { fired, type Rule, valuesOf } from "./rule";
import type { FlagSettings } from "./settings";

/** What is known on a key question was last confirmed long ago. */
export const staleAnswers: Rule<"days"> = {
	code: "stale-answers",
	name: "stale answers",
	about: "The answer to a key question hasn’t been confirmed for some time. This limit also decides which answers are shown as old.",
	needs: "questions",
	settings: {
		days: { label: "an answer is old after this long", unit: "working days", standard: 45, min: 1, max: 1000 },
	},
	fires({ rules, qualification, seen }) {
		if (!qualification.standings.some((standing, i) => standing.stale && qualification.questions[i]?.key)) return null;
		const { calendar } = rules;
		return fired(1, () => {
			const old = oldAnswers(qualification);
			const oldest = old.reduce((a, b) => (b.day < a.day ? b : a));
			const days = calendar.between(oldest.day, seen);
			const more = old.length > 1 ? `, and ${old.length - 1} more` : "";
			return {
				evidence: { questions: old.map(({ question }) => question.id), oldest: formatDay(oldest.day), days },
				label: "Stale answers",
				reason: `“${oldest.question.prompt}” was last answered on ${shortDay(oldest.day)}, ${workingDays(days)} ago${more}`,
				clears: "the key questions answered again",
				remedy: `Confirm again with the buyer: ${old
					.slice(0, 3)
					.map(({ question }) => question.prompt)
					.join(" · ")}`,
			};
		});
	},
};

/** The key questions whose answers are old, in the order of the edition, with the days of these. */
const oldAnswers = ({ questions, standings }: Qualification): { readonly question: Question; readonly day: Day }[] =>
	questions.flatMap((question, i) => {
		const standing = standings[i];
		return question.key && standing?.stale && standing.day !== NO_DAY ? [{ question, day: standing.day }] : [];
	});

/** Working days after which an answer is old in a stage (null: in none). */
export const staleAfterIn = derived("stale after", (set: FlagSettings, stage: string | null): number => valuesOf(staleAnswers, set, stage).days ?? 45);
