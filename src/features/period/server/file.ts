import { ownerIn } from "@/core/bridge/scope";
import { categoryOf } from "@/core/inspect";
import { kindIn } from "@/core/period/counted";
import { surveyOn } from "@/core/survey";
import { isoOrNull } from "@/core/time/day";
import { bounded, type Period } from "@/core/time/period";
import type { Formula, Sheet } from "@/formats/table";
import type { Context } from "@/platform/context";
import { Fault } from "@/platform/fault";
import { accountName, dealName } from "@/platform/names";
import { tableFile } from "@/platform/tableFile";
import type { Viewpoint } from "@/platform/viewpoint";
import { countedOn } from "./counted";
import { groupsBy } from "./groups";
import { readPeriod } from "./readPeriod";

/** What a column of the period adds up from the sheet of deals. */
const SUMS = [
	{ label: "Won", kind: "won", category: null },
	{ label: "Commit", kind: "open", category: "commit" },
	{ label: "Best case", kind: "open", category: "best case" },
	{ label: "Pipeline", kind: "open", category: "pipeline" },
	{ label: "Left out", kind: "open", category: "left out" },
	{ label: "Open", kind: "open", category: null },
	{ label: "Lost", kind: "lost", category: null },
	{ label: "Left behind", kind: "left behind", category: null },
	{ label: "Without a date", kind: "without a date", category: null },
] as const;
const KIND_WORDS = { won: "won", lost: "lost", open: "open", leftBehind: "left behind", later: "later", undated: "without a date" } as const;

/** The period by rep, with sums that a spreadsheet works out from the deals beside it. */
export const periodFile = tableFile({
	key: "period",
	async read(context, viewpoint) {
		const view = await readPeriod(context, viewpoint, "rep");
		const period = bounded(viewpoint.due.period);
		if (!view || !period) throw new Fault(400, "No period", "Choose a period with a start and an end.");
		const { deals, groups } = dealsOf(context, viewpoint, period);
		const amountOf = (rep: number, { kind, category }: (typeof SUMS)[number]) =>
			deals.reduce((sum, deal) => sum + (deal[3] === rep && deal[5] === kind && (category === null || deal[6] === category) ? Number(deal[7]) : 0), 0);
		const last = deals.length + 1;
		const range = (column: string) => `Deals!$${column}$2:$${column}$${last}`;
		const sumOf = (rep: number, sum: (typeof SUMS)[number]): Formula => ({
			formula: `SUMIFS(${range("H")},${range("D")},$A${rep + 1},${range("F")},"${sum.kind}"${sum.category ? `,${range("G")},"${sum.category}"` : ""})`,
			value: amountOf(rep, sum),
		});
		const rows = groups.map((group, i) => [i + 1, group.name, group.target, ...SUMS.map((sum) => sumOf(i + 1, sum))]);
		const total = rows.length + 2;
		const columnOf = (i: number) => String.fromCharCode("C".charCodeAt(0) + i);
		const totals: Formula[] = [view.figures.target ?? 0, ...SUMS.map((sum) => groups.reduce((all, _, i) => all + amountOf(i + 1, sum), 0))].map((value, i) => ({
			formula: `SUM(${columnOf(i)}2:${columnOf(i)}${total - 1})`,
			value,
		}));
		const { currency } = view;
		return {
			currency,
			columns: [
				{ label: "Rep no.", kind: "count" },
				{ label: "Rep", kind: "text" },
				{ label: `Target ${currency}`, kind: "amount" },
				...SUMS.map(({ label }) => ({ label: `${label} ${currency}`, kind: "amount" as const })),
			],
			rows: rows.length ? [...rows, [null, "All", ...totals]] : rows,
			sheets: [dealsSheet(deals, currency)],
		};
	},
});

/** The deals of a period one row each, with the number of their rep; and the reps. */
function dealsOf(context: Context, viewpoint: Viewpoint, period: Period) {
	const { organisation } = context;
	const { company } = organisation;
	const { scope } = viewpoint.whose;
	const seen = viewpoint.seen.day;
	const survey = surveyOn(company, seen);
	const groups = groupsBy(context, "rep", { period, scope, seen, survey, byOwner: countedOn(context, period, seen, seen) });
	// Sums go by a number of the workbook's own: two reps of one name stay two, and no name is read as a pattern.
	const deals = survey.deals.flatMap((one) => {
		const kind = one && ownerIn(scope, one.owner) ? kindIn(period, one.status, one.close, one.closedDay) : null;
		if (!one || !kind || kind === "later") return [];
		const rep = groups.findIndex(({ holds }) => holds(one.deal, one.owner));
		const category = kind === "open" ? (categoryOf(company, one) ?? "pipeline").replaceAll("_", " ") : "";
		return [
			[
				organisation.deals[one.deal]?.id ?? "",
				dealName(organisation, one.deal),
				accountName(organisation, one.deal),
				rep + 1 || null,
				groups[rep]?.name ?? "",
				KIND_WORDS[kind],
				category,
				one.amountBase,
				isoOrNull(one.close),
			],
		];
	});
	return { deals, groups };
}

const dealsSheet = (rows: Sheet["rows"], currency: string): Sheet => ({
	name: "Deals",
	columns: [
		{ label: "Deal number", kind: "text" },
		{ label: "Deal", kind: "text" },
		{ label: "Account", kind: "text" },
		{ label: "Rep no.", kind: "count" },
		{ label: "Rep", kind: "text" },
		{ label: "Kind", kind: "text" },
		{ label: "Category", kind: "text" },
		{ label: `Amount ${currency}`, kind: "amount" },
		{ label: "Close date", kind: "day" },
	],
	rows,
});
