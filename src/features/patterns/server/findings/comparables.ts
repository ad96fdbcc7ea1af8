import { categoryOf } from "@/core/inspect";
import { comparablesOf, groundSteps } from "@/core/outlook/outlook";
import { kindOf } from "@/core/outlook/past";
import { surveyOn } from "@/core/survey";
import { plural } from "@/core/words/grammar";
import { notFound } from "@/platform/fault";
import { dealName } from "@/platform/names";
import { runCooperatively } from "@/platform/runCooperatively";
import { Book, behindOf, dueCases } from "../book";
import { dayOf, finding, periodOf } from "../given";

/** The past deals on which the chance of an open deal rests: those of the deepest step with enough of them. */
export const comparables = finding({
	steps: () => 8,
	async compute(context, given) {
		const { organisation } = context;
		const { company } = organisation;
		const [period, day] = [periodOf(given), dayOf(given.day)];
		const index = organisation.dealIndex.get(given.dealId ?? "");
		const seen = index === undefined ? null : surveyOn(company, day).deals[index];
		if (!seen || index === undefined) throw notFound("deal", given.dealId ?? "");
		const ground = await runCooperatively(groundSteps(company, surveyOn(company, day), period, null, day));
		const chance = ground?.deals.find(({ deal }) => deal === index);
		if (!chance) throw notFound("chance of deal", given.dealId ?? "");
		const kind = kindOf(company, seen);
		const alike = [
			`in ${company.rules.stages[seen.stageIndex]?.name ?? "its stage"}`,
			(categoryOf(company, seen) ?? "no category").replaceAll("_", " "),
			`at ${seen.ownLevel}`,
			kind[3] === 0 ? "never pushed" : kind[3] === 1 ? "pushed once" : "pushed twice or more",
		].slice(0, chance.depth);
		const book = new Book();
		const title = `Comparable with ${dealName(organisation, index)}: ${alike.length ? alike.join(", ") : "any deal"}`;
		const key = book.open(`comparables:${given.dealId}`, title, `were won in time, of ${plural(ground?.past.length ?? 0, "past period")}`, () =>
			dueCases(context, comparablesOf(company, period, day, kind, chance.depth), "won"),
		);
		return behindOf(context, { openings: book.openings }, key);
	},
});
