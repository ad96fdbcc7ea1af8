import { ownerIn } from "@/core/bridge/scope";
import { type Block, blockOf, CATEGORIES, dayEndsIn, dayOrNull, nextStepOf } from "@/core/history/columns";
import { surveyOn } from "@/core/survey";
import { type Asked, column, inUnits, outsideTable } from "../table";

interface Source {
	readonly asked: Asked;
	readonly deal: number;
	readonly block: Block;
	readonly row: number;
	/** the row of the state that came after it */
	readonly next: number | undefined;
}
const rules = ({ asked }: Source) => asked.organisation.company.rules;
const currency = (source: Source) => rules(source).currencies[source.block.currency[source.row] as number] ?? null;
const owner = ({ asked, block, row }: Source) => asked.organisation.people[block.owner[row] as number];

export const states = outsideTable<Source>(
	"deal_states",
	"Deals day by day: each state in which a deal ended a day, from that day until the day before until_day.",
	[
		column("deal_id", "text", "", ({ asked, deal }) => asked.organisation.deals[deal]?.id ?? null),
		column("from_day", "day", "", ({ block, row }) => block.day[row] as number),
		column("until_day", "day", "the day on which another state holds; nothing for the one that holds", ({ block, next }) =>
			next === undefined ? null : (block.day[next] as number),
		),
		column(
			"stage",
			"text",
			"nothing while it was taken off the books",
			(source) => rules(source).stages[source.block.stage[source.row] as number]?.name ?? null,
		),
		column("status", "text", "open, won or lost", (source) => rules(source).stages[source.block.stage[source.row] as number]?.kind ?? null),
		column("category", "text", "commit, best_case, pipeline or left_out", ({ block, row }) => CATEGORIES[block.category[row] as number] ?? null),
		column("amount", "decimal", "in its currency, whole units", (source) => inUnits(source.block.amount[source.row] as number, currency(source))),
		column("currency", "text", "ISO 4217", currency),
		column("close_date", "day", "", ({ block, row }) => dayOrNull(block.close[row] as number)),
		column("owner_id", "text", "", (source) => owner(source)?.id ?? null),
		column("next_step", "text", "", ({ block, row }) => nextStepOf(block, row) || null),
		column("next_step_date", "day", "", ({ block, row }) => dayOrNull(block.nextStepDay[row] as number)),
	],
	function* (asked) {
		const { company } = asked.organisation;
		// Whose a deal is today says who may read what it was.
		for (const { deals } of surveyOn(company, asked.day).blocks)
			yield deals.flatMap((seen): Source[] => {
				if (!seen || !ownerIn(asked.scope, seen.owner)) return [];
				const block = blockOf(company.history, seen.deal);
				const ends = dayEndsIn(block, seen.deal, asked.day);
				return ends.map((row, i) => ({ asked, deal: seen.deal, block, row, next: ends[i + 1] }));
			});
	},
);
