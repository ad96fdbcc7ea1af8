import { grouped as count, shortMoney } from "@/core/money/words";
import { closedWithin } from "@/core/patterns/closed";
import { LEAST } from "@/core/statistics/wilson";
import { surveyOn } from "@/core/survey";
import { longDay } from "@/core/time/words";
import { byCount, plural } from "@/core/words/grammar";
import { outcomeOn } from "@/data/organisation/former";
import { Book, patternKind } from "../book";
import { DEAL_GROUPINGS, grouped, groupingOf, offered } from "../groups";
import { backTable, clusterOf } from "../reasons/back";
import { bySize, Cells, NO_REASON, NOBODY, sum, type Told } from "../reasons/cells";
import { lossTable, rivalTable, stageTable, winTable } from "../reasons/outcomes";
import { daysTable, timeTable } from "../reasons/overTime";
import { percent } from "../words";

const OFFERED = [DEAL_GROUPINGS.rep, DEAL_GROUPINGS.family, DEAL_GROUPINGS.kind];

/** Why deals were won and lost, against whom, from which stage; through time; and which losses end one day. */
export const reasons = patternKind({
	key: "reasons",
	label: "Reasons",
	read(context, { scope, day, by: askedBy }) {
		const { organisation } = context;
		const { company } = organisation;
		const book = new Book();
		const by = groupingOf(askedBy, OFFERED);
		const all = closedWithin(company, surveyOn(company, day), scope, day).map((one): Told => {
			const attributes = organisation.deals[one.seen.deal];
			const { competitor, outcomeReason } = attributes ? outcomeOn(attributes, day) : { competitor: null, outcomeReason: null };
			return { ...one, reason: outcomeReason ?? NO_REASON, competitor: competitor ?? NOBODY, team: organisation.people[one.seen.owner]?.team ?? "no team" };
		});
		const [won, lost] = [all.filter((one) => one.won), all.filter((one) => !one.won)];
		const cell = new Cells(book);
		const named = lost.filter(({ reason }) => reason !== NO_REASON);
		const [first] = bySize(grouped(named, ({ reason }) => [reason]));
		const cluster = clusterOf(lost);
		const currency = company.rules.rates.base;
		return {
			openings: book.openings,
			view: {
				headline:
					first && first[1].length >= LEAST
						? `${first[0]} is the most common reason: ${first[1].length} of ${lost.length} losses in a year, ${shortMoney(sum(first[1]), currency)}`
						: lost.length
							? `${plural(lost.length, "deal")} lost in a year, with no single main reason`
							: "No deals were lost in the last year",
				beside: [
					cluster
						? `Of ${cluster.of} losses to ${cluster.competitor}, ${cluster.k} were in the ${cluster.team} team; of those to others ${percent(cluster.others)}.`
						: "",
					`Deals closed in the year to ${longDay(day)}, as it was known on that day.`,
				].filter(Boolean),
				about: "deals closed within a year",
				rests: [count(all.length), `${byCount(all.length, "deal", "deals")}, ${won.length} won`],
				looked: null,
				follow: { label: "Set which reasons end", path: "/setup?place=stages", right: "changeRules" },
				groupings: offered(OFFERED),
				by: by.key,
				currency,
				tables: [
					lossTable(company.rules.stages, lost, cell),
					...(won.some(({ reason }) => reason !== NO_REASON) ? [winTable(won, cell)] : []),
					rivalTable(all, cell),
					stageTable(company.rules.stages, lost, cell),
					daysTable(context, all, by, cell),
					timeTable(company.rules.fiscal, lost, cell),
					backTable(context, day, lost),
				],
			},
		};
	},
});
