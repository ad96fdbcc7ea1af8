import { quarterOf } from "@/core/time/period";
import type { Sheet } from "@/formats/table";
import type { Context } from "@/platform/context";
import { Fault } from "@/platform/fault";
import type { FileContent } from "@/platform/tableFile";
import type { Viewpoint } from "@/platform/viewpoint";
import { type OutlookView, readOutlook } from "./readOutlook";

/** values that deals due are compared by; those dated elsewhere have one less */
const STEPS = ["all", "one value", "two values", "three values", "four values"];
const inPercent = (value: number) => Math.round(10_000 * value) / 100;

/** The open deals of an outlook with their chances and what these rest on; beside them where it ends, and its own record. */
export async function outlookFile(context: Context, viewpoint: Viewpoint): Promise<FileContent> {
	const { day } = viewpoint.seen;
	const period = viewpoint.due.period ?? quarterOf(day, context.organisation.company.rules.fiscal);
	const view = await readOutlook(context, viewpoint.whose.scope, period, day);
	if (!view.available) throw new Fault(404, "No outlook", view.reason);
	const { currency } = view;
	return {
		currency,
		columns: [
			{ label: "Deal", kind: "text" },
			{ label: "Account", kind: "text" },
			{ label: "Owner", kind: "text" },
			{ label: `Amount ${currency}`, kind: "amount" },
			{ label: "Dated", kind: "text" },
			{ label: "Chance", kind: "percent" },
			{ label: "Decides", kind: "text" },
			...STEPS.flatMap((step) => [
				{ label: `Won of ${step}`, kind: "count" as const },
				{ label: `Comparable: ${step}`, kind: "count" as const },
			]),
		],
		rows: view.deals.map(({ name, account, owner, amount, dated, chance, decides, steps }) => [
			name,
			account,
			owner,
			amount,
			dated,
			inPercent(chance),
			decides ? "yes" : "",
			...STEPS.flatMap((_, i) => [steps[i]?.won ?? null, steps[i]?.n ?? null]),
		]),
		sheets: [figuresSheet(view), recordSheet(view)],
	};
}

/** Where it ends, and what the expected total is made of. */
const figuresSheet = (view: OutlookView): Sheet => ({
	name: "Outlook",
	columns: [
		{ label: "Figure", kind: "text" },
		{ label: view.currency, kind: "amount" },
	],
	rows: [
		["won", view.won],
		["low", view.low],
		["middle", view.middle],
		["high", view.high],
		["mean", view.mean],
		["of it: due", view.due],
		["of it: dated elsewhere", view.elsewhere],
		["of it: not there yet", view.fresh],
		["target", view.target],
	],
});

/** Its own record, a row a past period. */
const recordSheet = ({ currency, record }: OutlookView): Sheet => ({
	name: "Track record",
	columns: [
		{ label: "From", kind: "day" },
		{ label: "To", kind: "day" },
		{ label: `Low ${currency}`, kind: "amount" },
		{ label: `High ${currency}`, kind: "amount" },
		{ label: `Came ${currency}`, kind: "amount" },
		{ label: "Inside", kind: "text" },
	],
	rows: record.periods.map(({ from, to, low, high, total, inside }) => [from, to, low, high, total, inside ? "yes" : "no"]),
});
