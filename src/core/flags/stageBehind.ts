import { isTouchAt } from "../contact/activities";
import { formatDay } from "../time/day";
import { shortDay } from "../time/words";
import { withArticle } from "../words/grammar";
import { fired, type Rule } from "./rule";

/** What happened belongs to a later stage than the record says. */
export const stageBehind: Rule = {
	code: "stage-behind",
	name: "stage behind",
	about: "An activity took place that belongs to a later stage than the deal’s. Setup assigns kinds of activity to stages.",
	settings: {},
	fires({ rules, facts, path, stage, seen }) {
		const { kindPositions, stages } = rules;
		const since = path.visits.at(-1)?.from;
		if (since === undefined) return null;
		let found: { kind: string; day: number; position: number } | null = null;
		const { columns, from, end } = facts.activities;
		for (let row = from; row < end; row++) {
			// Most were before this stage, and need no second look.
			const day = columns.day[row] as number;
			if (day > seen || day < since || !isTouchAt(columns, row)) continue;
			const kind = columns.kinds[columns.kind[row] as number] as string;
			const position = kindPositions[kind] ?? 0;
			if (position <= stage.rank) continue;
			// The newest, and of those on one day the one with the smallest id: it stands first.
			if (!found || day > found.day) found = { kind, day, position };
		}
		if (!found) return null;
		const place = stages.find((other) => other.kind === "open" && other.rank === found.position)?.name ?? `stage ${found.position}`;
		return fired(1, () => ({
			evidence: { kind: found.kind, on: formatDay(found.day), stage: stage.name, belongsTo: place },
			label: "Stage behind the log",
			reason: `${withArticle(found.kind)} took place on ${shortDay(found.day)}, which belongs to ${place}, and the deal is still in ${stage.name}`,
			clears: "the stage updated",
			remedy: "Update the stage",
		}));
	},
};
