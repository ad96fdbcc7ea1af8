import { timeInStage } from "@/core/patterns/timeInStage";
import { logRank } from "@/core/statistics/logRank";
import { plural } from "@/core/words/grammar";
import { betterOf, type HabitRow, habit } from "./habit";

const OWN = "own";
const OTHERS = "others";

/** How long deals stay in each stage while they are theirs. */
export const stages = habit({
	place: "stages",
	rows({ context: { organisation }, owner, day }): HabitRow[] {
		const { company } = organisation;
		const times = timeInStage(
			company,
			day,
			(_, whose) => [whose === owner ? OWN : OTHERS],
			() => true,
		);
		const of = (stage: number, group: string) => times.find((one) => one.stage === stage && one.group === group);
		const said = (median: number | null | undefined) => (typeof median === "number" ? plural(median, "working day") : "–");
		const found = [...new Set(times.map(({ stage }) => stage))].sort((a, b) => (company.rules.stages[a]?.rank ?? 0) - (company.rules.stages[b]?.rank ?? 0));
		return found.flatMap((stage) => {
			const [own, others] = [of(stage, OWN), of(stage, OTHERS)];
			if (!own || !others) return [];
			return [
				{
					label: `In ${company.rules.stages[stage]?.name ?? ""}, median`,
					own: said(own.median),
					others: said(others.median),
					p: own.median === null || others.median === null ? null : logRank(own.visits, others.visits),
					better: betterOf(own.median, others.median, false),
				},
			];
		});
	},
});
