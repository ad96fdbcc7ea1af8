import { ownerIn, type Scope } from "@/core/bridge/scope";
import type { Company } from "@/core/company";
import { byId } from "@/core/deal/order";
import type { DealSeen } from "@/core/dealSeen";
import { derive, keyOf } from "@/core/derive";
import { anythingAhead, noNextStep } from "@/core/flags/noNextStep";
import { valuesOf } from "@/core/flags/rule";
import { blockOf } from "@/core/history/columns";
import { categoryOf, rowOf } from "@/core/inspect";
import { joined } from "@/core/joined";
import { kindIn } from "@/core/period/counted";
import { tooEarly, weeksAhead } from "@/core/period/dueSoon";
import { type SeenBlock, type Survey, surveyOn } from "@/core/survey";
import { type Day, formatDay, isoOrNull } from "@/core/time/day";
import type { Period } from "@/core/time/period";
import type { Context } from "@/platform/context";
import { accountName, dealName, ownerName } from "@/platform/names";
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

/** Some deals: how many and how much, and the first of them; a page sends no more than somebody reads. */
export interface DealList {
	readonly count: number;
	/** base minor units */
	readonly amount: number;
	readonly deals: readonly DealLine[];
}

/** Deals due in a week; `from` to `to` for the address of all of them. */
export interface DueWeek extends DealList {
	readonly label: string;
	readonly early: number;
	readonly from: string;
	readonly to: string;
}

const BIGGEST = 8;
const SHOWN = 40;

/** The deals of a period that are worth looking at: due soon, newly lit and gone out, the biggest. */
export function listsOf(
	context: Context,
	viewpoint: Viewpoint,
	period: Period,
): { dueSoon: readonly DueWeek[]; litUp: DealList; wentOut: DealList; biggest: readonly DealLine[] } {
	const { organisation } = context;
	const { company } = organisation;
	const { scope } = viewpoint.whose;
	const [seen, against] = [viewpoint.seen.day, viewpoint.against.day];
	const survey = surveyOn(company, seen);
	const earlier = surveyOn(company, against);
	const line = (one: DealSeen, note: string | null): DealLine => ({
		id: organisation.deals[one.deal]?.id ?? "",
		name: dealName(organisation, one.deal, seen),
		account: accountName(organisation, one.deal, seen),
		owner: ownerName(organisation, one.owner),
		amount: one.amountBase,
		close: isoOrNull(one.close),
		category: categoryOf(company, one)?.replaceAll("_", " ") ?? null,
		level: one.attention.level,
		flags: one.flags.map(({ label }) => label),
		note,
	});
	const listed = (deals: readonly DealSeen[], note: (one: DealSeen) => string | null): DealList => ({
		count: deals.length,
		amount: deals.reduce((sum, one) => sum + one.amountBase, 0),
		deals: deals.slice(0, SHOWN).map((one) => line(one, note(one))),
	});
	const weeks = weeksAhead(seen);
	const bigFirst = bigFirstIn(company);
	const { dueIn, due, litUp, wentOut } = sorted(survey, earlier, scope, period, weeks);
	const soon = weeks.map((week, i) => {
		const deals = (dueIn[i] ?? []).sort((a, b) => a.close - b.close || bigFirst(a, b));
		const early = new Map(deals.map((one) => [one.deal, tooEarly(company, survey.norms, one, seen)]));
		const noted = (one: DealSeen) => {
			const days = early.get(one.deal);
			const stage = company.rules.stages[one.stageIndex]?.name ?? "";
			return days ? `${stage} is early: ${days.needed} working days usually remain, ${days.left} are left` : null;
		};
		return {
			label: i === 0 ? "this week" : "next week",
			...listed(deals, noted),
			early: [...early.values()].filter((days) => days !== null).length,
			from: formatDay(week.start),
			to: formatDay(week.end),
		};
	});
	const biggest = [...due].sort(bigFirst).slice(0, BIGGEST);
	return {
		dueSoon: soon,
		litUp: listed(litUp.sort(bigFirst), () => null),
		wentOut: listed(wentOut.sort(bigFirst), ({ status }) => (status === "open" ? null : status)),
		biggest: biggest.map((one) => line(one, isIdle(context, one, survey.norms.bigAmount, seen) ? "nobody is acting on" : null)),
	};
}

/** The order of deals in lists: the largest first. */
function bigFirstIn(company: Company) {
	const order = byId(company);
	return (a: DealSeen, b: DealSeen) => b.amountBase - a.amountBase || order(a.deal, b.deal);
}
const isLit = (one: DealSeen | null | undefined) => one?.status === "open" && one.attention.level !== "calm";

/** A deal with the lists it belongs to. */
interface Listed {
	readonly one: DealSeen;
	/** the weeks ahead that it is due in, by place */
	readonly weeks: readonly number[];
	readonly due: boolean;
	readonly litUp: boolean;
	readonly wentOut: boolean;
}

/** The deals of a scope by the list they belong to: there are many more deals than any of these lists holds. */
function sorted(survey: Survey, earlier: Survey, scope: Scope, period: Period, weeks: readonly { start: Day; end: Day }[]) {
	const key = keyOf(period.start, period.end, ...weeks.flatMap(({ start, end }) => [start, end]));
	const found = joined(
		survey.blocks.map((block, at) => {
			const before = earlier.blocks[at] as SeenBlock;
			return derive(block, "period lists", keyOf(key, before), () => listedIn(block, before, period, weeks));
		}),
	).filter(({ one }) => ownerIn(scope, one.owner));
	const of = (holds: (listed: Listed) => boolean) => found.flatMap((listed) => (holds(listed) ? [listed.one] : []));
	return {
		dueIn: weeks.map((_, i) => of((listed) => listed.weeks.includes(i))),
		due: of(({ due }) => due),
		litUp: of(({ litUp }) => litUp),
		wentOut: of(({ wentOut }) => wentOut),
	};
}

function listedIn(block: SeenBlock, earlier: SeenBlock, period: Period, weeks: readonly { start: Day; end: Day }[]): Listed[] {
	return block.deals.flatMap((one, place): Listed[] => {
		if (!one) return [];
		const kind = kindIn(period, one.status, one.close, one.closedDay);
		const [lit, was] = [isLit(one), isLit(earlier.deals[place])];
		const open = one.status === "open";
		const listed = {
			one,
			weeks: weeks.flatMap((week, i) => (open && one.close >= week.start && one.close <= week.end ? [i] : [])),
			due: open && kind === "open",
			litUp: kind === "open" && lit && !was,
			wentOut: was && !lit && kind !== null && kind !== "later",
		};
		return listed.weeks.length || listed.due || listed.litUp || listed.wentOut ? [listed] : [];
	});
}

/** Of the size from which the rule of the next step is severe, and nothing lies ahead of it. */
function isIdle({ organisation: { company } }: Context, one: DealSeen, bigAmount: number, seen: Day): boolean {
	const big = valuesOf(noNextStep, company.rules.flags, company.rules.stages[one.stageIndex]?.name ?? null).big ?? bigAmount;
	if (one.amountBase < big) return false;
	return !anythingAhead(
		company.deals[one.deal]?.tasks ?? [],
		one.contact.planned,
		blockOf(company.history, one.deal).nextStepDay[rowOf(company.history, one)] as number,
		seen,
	);
}
