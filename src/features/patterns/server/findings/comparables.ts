import { asOf } from "@/core/history/columns";
import { kindWords } from "@/core/outlook/kindWords";
import { comparablesOf, groundSteps } from "@/core/outlook/outlook";
import { surveyOn } from "@/core/survey";
import { plural } from "@/core/words/grammar";
import { notFound } from "@/platform/fault";
import { dealName } from "@/platform/names";
import { runCooperatively } from "@/platform/runCooperatively";
import { Book, behindOf, type Case, cameAt } from "../book";
import { dayOf, finding, periodOf } from "../given";

/** The past deals on which the chance of an open deal rests: those of the deepest step with enough of them. */
export const comparables = finding({
	steps: () => 8,
	async compute(context, given) {
		const { organisation } = context;
		const { company } = organisation;
		const [period, day] = [periodOf(given), dayOf(given.day)];
		const index = organisation.dealIndex.get(given.dealId ?? "");
		const ground = await runCooperatively(groundSteps(company, surveyOn(company, day), period, null, day));
		const chance = ground?.deals.find(({ deal }) => deal === index);
		if (!chance || index === undefined) throw notFound("chance of deal", given.dealId ?? "");
		const { kind, depth } = chance;
		const alike = kindWords(company, kind, depth);
		const book = new Book();
		const any = kind.due ? "any deal that was due" : "any deal dated elsewhere";
		const title = `Comparable with ${dealName(organisation, index)}: ${alike.length ? alike.join(", ") : any}`;
		const key = book.open(`comparables:${given.dealId}`, title, `were won in time, of ${plural(ground?.past.length ?? 0, "past period")}`, () =>
			comparablesOf(company, period, day, kind, depth).map(({ deal, owner, amount, won, period: own, day: looked }): Case => {
				const endRow = asOf(company.history, deal, own.end);
				return { deal, day: looked, owner, amount, came: cameAt(context, { deal, won, endRow }, own), hit: won };
			}),
		);
		return behindOf(context, { openings: book.openings }, key);
	},
});
