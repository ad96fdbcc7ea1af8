import { LIGHTS } from "@/core/attention/attention";
import { blockOf, CATEGORIES, type Category } from "@/core/history/columns";
import { surveyOn } from "@/core/survey";
import type { Context } from "@/platform/context";
import { Fault } from "@/platform/fault";
import { accountName, accountOfDeal, ownerName } from "@/platform/names";

export const SLICES = [
	{ key: "rep", label: "rep" },
	{ key: "stage", label: "stage" },
	{ key: "category", label: "category" },
	{ key: "account", label: "account" },
	{ key: "product", label: "product" },
	{ key: "territory", label: "territory" },
	{ key: "source", label: "source" },
	{ key: "customer", label: "customer or prospect" },
	{ key: "industry", label: "industry" },
	{ key: "attention", label: "attention" },
] as const;
export type SliceKey = (typeof SLICES)[number]["key"];

/** A field by its key as it stands in an address; throws a 400 for one there is none of. */
export function sliceAsked(key: string | undefined): SliceKey {
	const field = key === undefined ? "rep" : SLICES.find((slice) => slice.key === key)?.key;
	if (!field) throw new Fault(400, "This address isn’t valid", `“by” is ${key}; it must be one of ${SLICES.map((slice) => slice.key).join(", ")}.`);
	return field;
}

/** The light a deal is seen under, as slices name it. */
export const LIGHT_WORDS = { act: "Act", watch: "Watch", calm: "Calm", closed: "Not open now" } as const;

/**
 * Which part of a field a deal belongs to at one of its versions: each deal is in one part, so that parts add up.
 * Rep, stage and category are those of the version; attention is that of `seen`; the rest doesn't change with time.
 */
export function sliceOf(context: Context, key: SliceKey, seen: number): (deal: number, row: number) => string {
	const { organisation } = context;
	const { history, rules } = organisation.company;
	const account = (deal: number) => accountOfDeal(organisation, deal, seen);
	switch (key) {
		case "rep":
			return (deal, row) => ownerName(organisation, blockOf(history, deal).owner[row] as number);
		case "stage":
			return (deal, row) => rules.stages[blockOf(history, deal).stage[row] as number]?.name ?? "Removed";
		case "category":
			return (deal, row) => categoryWords(CATEGORIES[blockOf(history, deal).category[row] as number]);
		case "account":
			return (deal) => accountName(organisation, deal, seen);
		case "product":
			return (deal) => organisation.deals[deal]?.products[0] ?? "No product";
		case "territory":
			return (deal) => account(deal)?.territory ?? "No territory";
		case "source":
			return (deal) => organisation.deals[deal]?.source ?? "No source";
		case "customer":
			return (deal) => account(deal)?.kind ?? "Not said";
		case "industry":
			return (deal) => account(deal)?.industry ?? "No industry";
		case "attention": {
			const { deals } = surveyOn(organisation.company, seen);
			return (deal) => {
				const view = deals[deal];
				return LIGHT_WORDS[view?.status === "open" ? view.attention.level : "closed"];
			};
		}
	}
}

const categoryWords = (category: Category | undefined) => category?.replaceAll("_", " ") ?? "no category";

/** Parts in the order to show them: lights from act to calm, stages by position, the rest by the alphabet. */
export function partOrder(context: Context, key: SliceKey): (a: string, b: string) => number {
	const fixed =
		key === "attention"
			? [...[...LIGHTS].reverse().map((light) => LIGHT_WORDS[light]), LIGHT_WORDS.closed]
			: key === "stage"
				? context.organisation.company.rules.stages.map((stage) => stage.name)
				: key === "category"
					? [...CATEGORIES, undefined].map(categoryWords)
					: [];
	const place = (part: string) => (fixed as string[]).indexOf(part);
	return (a, b) => place(a) - place(b) || (a < b ? -1 : a > b ? 1 : 0);
}
