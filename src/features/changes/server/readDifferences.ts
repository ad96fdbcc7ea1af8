import { fieldChanges } from "@/core/bridge/compare";
import { exists, isOpen, membership, ownerIn } from "@/core/bridge/scope";
import { type FieldSetting, fieldOf, valueWords } from "@/core/deal/fields";
import { RULES } from "@/core/flags/list";
import { asOf, blockOf, NONE } from "@/core/history/columns";
import { amountBaseOf } from "@/core/inspect";
import { surveyOn } from "@/core/survey";
import { query } from "@/platform/command";
import type { Context } from "@/platform/context";
import { accountName, dealName, ownerName } from "@/platform/names";
import type { Viewpoint } from "@/platform/viewpoint";

/** One thing that differs, in words, and whether that is better or worse for the period; null: neither. */
export interface DifferenceView {
	readonly what: string;
	readonly before: string;
	readonly after: string;
	readonly better: boolean | null;
	/** by how much, in words; null where before and after say it all */
	readonly told: string | null;
}

export interface ChangedDealView {
	readonly id: string;
	readonly name: string;
	readonly account: string;
	readonly owner: string;
	/** what it did to the open amount of the period, base minor units */
	readonly effect: number;
	readonly differences: readonly DifferenceView[];
	/** names of flags that lit and that went out */
	readonly lit: readonly string[];
	readonly wentOut: readonly string[];
}

const ORDERS = [
	{ key: "effect", label: "effect on the period" },
	{ key: "worse", label: "most that got worse" },
	{ key: "better", label: "most that got better" },
	{ key: "flags", label: "most flags lit" },
	{ key: "name", label: "name" },
] as const;
export type DifferenceOrder = (typeof ORDERS)[number]["key"];

export interface DifferencesView {
	readonly order: DifferenceOrder;
	readonly orders: readonly { readonly key: DifferenceOrder; readonly label: string }[];
	/** in that order; the first of them where fewer were asked for */
	readonly deals: readonly ChangedDealView[];
	/** how many differ */
	readonly count: number;
	/** flags that lit and that went out, over all of them */
	readonly lit: number;
	readonly wentOut: number;
	/** deals of the period and people at either end of which nothing differs */
	readonly same: number;
	readonly currency: string;
}

/** Deal by deal between two days: every deal of the period and people at either end with what differs; the `limit` first ones in an order. */
export const readDifferences = query(
	"changes.differences",
	"readChanges",
	(context: Context, viewpoint: Viewpoint, look: { order?: string | undefined; limit?: number } = {}): DifferencesView | null => {
		const { organisation } = context;
		const { company } = organisation;
		const { period } = viewpoint.due;
		if (!period) return null;
		const { scope } = viewpoint.whose;
		const [dayA, dayB] = [viewpoint.against.day, viewpoint.seen.day];
		const [before, after] = [surveyOn(company, dayA).deals, surveyOn(company, dayB).deals];
		const names = new Map(RULES.map((rule) => [rule.code, rule.name]));
		const isHere = membership(company, period, scope);
		const deals: ChangedDealView[] = [];
		let same = 0;
		company.deals.forEach((_, deal) => {
			const [rowA, rowB] = [asOf(company.history, deal, dayA), asOf(company.history, deal, dayB)];
			const block = blockOf(company.history, deal);
			const isIn = (row: number) => isOpen(company, block, row) && isHere(block, row);
			const [inA, inB] = [isIn(rowA), isIn(rowB)];
			if (!inA && !inB && !closedBetween(context, deal, rowA, rowB, viewpoint)) return;
			const [seenA, seenB] = [before[deal] ?? null, after[deal] ?? null];
			const differences = [...fieldWords(context, deal, rowA, rowB), ...figureWords(seenA, seenB)];
			const codes = (seen: typeof seenA) => (seen?.flags ?? []).map((flag) => flag.code);
			const lit = codes(seenB).filter((code) => !codes(seenA).includes(code));
			const wentOut = codes(seenA).filter((code) => !codes(seenB).includes(code));
			const effect = (inB ? amountBaseOf(company, block, rowB, dayB) : 0) - (inA ? amountBaseOf(company, block, rowA, dayB) : 0);
			if (!exists(company, block, rowA)) differences.unshift({ what: "Deal", before: "not yet there", after: "new", better: true, told: null });
			if (!differences.length && !lit.length && !wentOut.length && !effect) {
				same++;
				return;
			}
			deals.push({
				id: organisation.deals[deal]?.id ?? "",
				name: dealName(organisation, deal, dayB),
				account: accountName(organisation, deal, dayB),
				owner: ownerName(organisation, block.owner[rowB >= 0 ? rowB : rowA] as number),
				effect,
				differences,
				lit: lit.map((code) => names.get(code) ?? code),
				wentOut: wentOut.map((code) => names.get(code) ?? code),
			});
		});
		const order = ORDERS.find((one) => one.key === look.order)?.key ?? "effect";
		const by = COMPARE[order];
		deals.sort((a, b) => by(a, b) || Math.abs(b.effect) - Math.abs(a.effect) || b.differences.length - a.differences.length || (a.id < b.id ? -1 : 1));
		const total = (of: "lit" | "wentOut") => deals.reduce((sum, deal) => sum + deal[of].length, 0);
		return {
			order,
			orders: ORDERS,
			deals: deals.slice(0, look.limit),
			count: deals.length,
			lit: total("lit"),
			wentOut: total("wentOut"),
			same,
			currency: company.rules.rates.base,
		};
	},
);

const toldAs = (deal: ChangedDealView, better: boolean) => deal.differences.filter((difference) => difference.better === better).length;
const COMPARE: Readonly<Record<DifferenceOrder, (a: ChangedDealView, b: ChangedDealView) => number>> = {
	effect: () => 0,
	worse: (a, b) => toldAs(b, false) + b.lit.length - toldAs(a, false) - a.lit.length,
	better: (a, b) => toldAs(b, true) + b.wentOut.length - toldAs(a, true) - a.wentOut.length,
	flags: (a, b) => b.lit.length - a.lit.length,
	name: (a, b) => a.name.localeCompare(b.name, "en"),
};

/** Closed between the two days, due in the period and in scope: it came or went without being open at either end. */
function closedBetween({ organisation }: Context, deal: number, rowA: number, rowB: number, viewpoint: Viewpoint): boolean {
	const { company } = organisation;
	const block = blockOf(company.history, deal);
	const kind = (row: number) => (row < 0 ? undefined : company.rules.stages[block.stage[row] as number]?.kind);
	const after = kind(rowB);
	const { period } = viewpoint.due;
	const close = block.close[rowB] as number;
	return (
		(after === "won" || after === "lost") &&
		kind(rowA) !== after &&
		period !== null &&
		close >= period.start &&
		close <= period.end &&
		ownerIn(viewpoint.whose.scope, block.owner[rowB] as number)
	);
}

/** What differs between two versions of a deal, in words. */
function fieldWords({ organisation }: Context, deal: number, rowA: number, rowB: number): DifferenceView[] {
	const { company } = organisation;
	const { stages, currencies, rates } = company.rules;
	const block = blockOf(company.history, deal);
	const closed = exists(company, block, rowB) && !isOpen(company, block, rowB);
	const changes = fieldChanges(company, deal, rowA, rowB);
	const setting: FieldSetting = {
		stages,
		currency: currencies[block.currency[rowB] as number] ?? rates.base,
		person: (owner) => ownerName(organisation, owner === null ? NONE : Number(owner)),
		currencyDiffers: changes.some((change) => change.field === "currency"),
		closed,
	};
	return changes.flatMap(({ field: key, before, after }): DifferenceView[] => {
		const field = fieldOf(key);
		if (closed && field.endsWithDeal) return [];
		return [
			{
				what: field.label,
				before: valueWords(field, before, setting),
				after: valueWords(field, after, setting),
				better: field.better?.(before, after, setting) ?? null,
				told: before === null || after === null ? null : (field.told?.(before, after, setting) ?? null),
			},
		];
	});
}

interface Seen {
	readonly status: string;
	readonly attention: { readonly score: number };
	readonly qualification: { readonly strength: number };
}

/** Attention and strength, where they differ while it is open. */
function figureWords(a: Seen | null, b: Seen | null): DifferenceView[] {
	if (a?.status !== "open" || b?.status !== "open") return [];
	const figure = (what: string, before: number, after: number, up: boolean, [more, less]: readonly [string, string]): DifferenceView[] =>
		before === after
			? []
			: [
					{
						what,
						before: String(before),
						after: String(after),
						better: after > before === up,
						told: `${Math.abs(after - before)} ${after > before ? more : less}`,
					},
				];
	return [
		...figure("Attention", a.attention.score, b.attention.score, false, ["more", "less"]),
		...figure("Strength", a.qualification.strength, b.qualification.strength, true, ["stronger", "weaker"]),
	];
}
