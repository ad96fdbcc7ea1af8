import { ownerIn } from "@/core/bridge/scope";
import { anythingAhead, noNextStep } from "@/core/flags/noNextStep";
import { valuesOf } from "@/core/flags/rule";
import { CATEGORIES } from "@/core/history/columns";
import type { DealSeen } from "@/core/inspect";
import { tooEarly, weeksAhead } from "@/core/period/dueSoon";
import { kindIn } from "@/core/period/figures";
import { type Day, isoOrNull, NO_DAY } from "@/core/time/day";
import type { Period } from "@/core/time/period";
import type { Context } from "@/platform/context";
import { accountName, dealName, ownerName } from "@/platform/names";
import { surveyOn } from "@/platform/survey";
import type { Viewpoint } from "@/platform/viewpoint";

export interface DealLine {
	readonly id: string;
	readonly name: string;
	readonly account: string;
	readonly owner: string;
	readonly amount: number;
	readonly close: string | null;
	readonly category: string | null;
	readonly level: string;
	readonly flags: readonly string[];
	/** what is worth saying of it here */
	readonly note: string | null;
}

const BIGGEST = 8;

/** The deals of a period that are worth looking at: due soon, newly lit and gone out, the biggest. */
export function listsOf(context: Context, viewpoint: Viewpoint, period: Period) {
	const { organisation } = context;
	const { company } = organisation;
	const { scope } = viewpoint.whose;
	const [seen, against] = [viewpoint.seen.day, viewpoint.against.day];
	const survey = surveyOn(company, seen);
	const earlier = surveyOn(company, against);
	const line = (one: DealSeen, note: string | null): DealLine => ({
		id: organisation.deals[one.deal]?.id ?? "",
		name: dealName(organisation, one.deal),
		account: accountName(organisation, one.deal),
		owner: ownerName(organisation, one.owner),
		amount: one.amountBase,
		close: isoOrNull(one.close),
		category: CATEGORIES[company.history.category[one.row] as number]?.replaceAll("_", " ") ?? null,
		level: one.attention.level,
		flags: one.flags.map(({ label }) => label),
		note,
	});
	const ours = survey.deals.flatMap((one) => (one && ownerIn(scope, one.owner) ? [one] : []));
	const open = ours.filter((one) => one.status === "open");
	const due = open.filter((one) => kindIn(period, "open", one.close, NO_DAY) === "open");
	const isLit = (one: DealSeen | null | undefined) => one?.status === "open" && one.attention.level !== "calm";
	const bigFirst = (a: DealSeen, b: DealSeen) => b.amountBase - a.amountBase || a.deal - b.deal;
	const soon = weeksAhead(seen).map((week, i) => {
		const deals = open.filter(({ close }) => close >= week.start && close <= week.end).sort((a, b) => a.close - b.close || bigFirst(a, b));
		const lines = deals.map((one) => {
			const early = tooEarly(company, survey.norms, one, seen);
			const stage = company.rules.stages[one.stageIndex]?.name ?? "";
			return line(one, early && `${stage} is early for it: ${early.needed} working days usually remain, ${early.left} are left`);
		});
		return {
			words: i === 0 ? "this week" : "next week",
			count: deals.length,
			amount: deals.reduce((sum, one) => sum + one.amountBase, 0),
			early: lines.filter(({ note }) => note !== null).length,
			deals: lines,
		};
	});
	const wasLit = (one: DealSeen) => isLit(earlier.deals[one.deal]);
	const biggest = [...due].sort(bigFirst).slice(0, BIGGEST);
	return {
		dueSoon: soon,
		litUp: due
			.filter((one) => isLit(one) && !wasLit(one))
			.sort(bigFirst)
			.map((one) => line(one, null)),
		wentOut: ours
			.filter((one) => wasLit(one) && !isLit(one) && ![null, "later"].includes(kindIn(period, one.status, one.close, one.path.closedDay)))
			.sort(bigFirst)
			.map((one) => line(one, one.status === "open" ? null : one.status)),
		biggest: biggest.map((one) => line(one, isIdle(context, one, survey.norms.bigAmount, seen) ? "nobody is doing anything" : null)),
	};
}

/** Of the size from which the rule of the next step is severe, and nothing lies ahead of it. */
function isIdle({ organisation: { company } }: Context, one: DealSeen, bigAmount: number, seen: Day): boolean {
	const big = valuesOf(noNextStep, company.rules.flags, company.rules.stages[one.stageIndex]?.name ?? null).big ?? bigAmount;
	if (one.amountBase < big) return false;
	return !anythingAhead(company.deals[one.deal]?.tasks ?? [], one.contact.planned, company.history.nextStepDay[one.row] as number, seen);
}
