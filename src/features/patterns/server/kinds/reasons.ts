import { grouped as count } from "@/core/money/words";
import { type Closed, closedWithin, meanSaid } from "@/core/patterns/closed";
import { comeBackOn } from "@/core/patterns/comeBack";
import { apart, LEAST, shareOf } from "@/core/statistics/wilson";
import { isOpenOn, taskOn } from "@/core/tasks/task";
import { type Day, formatDay, NO_DAY } from "@/core/time/day";
import { quarterOf } from "@/core/time/period";
import { longDay, periodWords, shortDay } from "@/core/time/words";
import { byCount, plural } from "@/core/words/grammar";
import { outcomeOn } from "@/data/organisation/former";
import type { Context } from "@/platform/context";
import { accountName, dealName } from "@/platform/names";
import { surveyOn } from "@/platform/survey";
import { type Cell, type PatternTable, text } from "../../table/view";
import { Book, type Case, patternKind } from "../book";
import { DEAL_GROUPINGS, grouped, groupingOf, offered } from "../groups";
import { percent, short } from "../words";

/** A closed deal with what was said of why. */
interface Told extends Closed {
	readonly reason: string;
	readonly competitor: string;
	readonly team: string;
}

const NO_REASON = "no reason given";
const NOBODY = "nobody named";
const OFFERED = [DEAL_GROUPINGS.rep, DEAL_GROUPINGS.family, DEAL_GROUPINGS.kind];

/** Why deals were won and lost, against whom, from which stage; through time; and which losses end one day. */
export const reasons = patternKind({
	key: "reasons",
	words: "Reasons",
	read(context, { scope, day, by: askedBy }) {
		const { organisation } = context;
		const { company } = organisation;
		const book = new Book();
		const by = groupingOf(askedBy, OFFERED);
		const all = closedWithin(surveyOn(company, day), scope, day).map((one): Told => {
			const attributes = organisation.deals[one.seen.deal];
			const { competitor, outcomeReason } = attributes ? outcomeOn(attributes, day) : { competitor: null, outcomeReason: null };
			return { ...one, reason: outcomeReason ?? NO_REASON, competitor: competitor ?? NOBODY, team: organisation.people[one.seen.owner]?.team ?? "no team" };
		});
		const [won, lost] = [all.filter((one) => one.won), all.filter((one) => !one.won)];
		const cell = new Cells(book);
		const named = lost.filter(({ reason }) => reason !== NO_REASON);
		const [first] = bySize(grouped(named, ({ reason }) => [reason]));
		const cluster = clusterOf(lost);
		const currency = company.rules.rates.base;
		return {
			openings: book.openings,
			view: {
				headline:
					first && first[1].length >= LEAST
						? `${first[0]} is the most common reason: ${first[1].length} of ${lost.length} losses in a year, ${short(sum(first[1]), currency)}`
						: lost.length
							? `${plural(lost.length, "deal")} lost in a year, with no single main reason`
							: "No deals were lost in the last year",
				beside: [
					cluster
						? `Of ${cluster.of} losses to ${cluster.competitor}, ${cluster.k} were in the ${cluster.team} team; of those to others ${percent(cluster.others)}.`
						: "",
					`Deals closed in the year to ${longDay(day)}, as it was known on that day.`,
				].filter(Boolean),
				about: "deals closed within a year",
				rests: [count(all.length), `${byCount(all.length, "deal", "deals")}, ${won.length} won`],
				looked: null,
				follow: { words: "Set which reasons end", path: "/setup?place=stages", right: "changeRules" },
				groupings: offered(OFFERED),
				by: by.key,
				currency,
				tables: [
					lossTable(company.rules.stages, lost, cell),
					...(won.some(({ reason }) => reason !== NO_REASON) ? [winTable(won, cell)] : []),
					rivalTable(all, cell),
					stageTable(company.rules.stages, lost, cell),
					daysTable(context, all, by, cell),
					timeTable(company.rules.fiscalStart, lost, cell),
					backTable(context, day, lost),
				],
			},
		};
	},
});

const sum = (list: readonly Told[]) => list.reduce((all, { seen }) => all + seen.amountBase, 0);
const bySize = (groups: ReadonlyMap<string, Told[]>) => [...groups].sort(([a, x], [b, y]) => y.length - x.length || sum(y) - sum(x) || (a < b ? -1 : 1));
const ages = (list: readonly Told[]) => meanSaid(list.map(({ seen }) => seen.dealAge));

/** Cells that open the closed deals they are made of. */
class Cells {
	constructor(private readonly book: Book) {}

	private open(key: string, title: string, list: readonly Told[], counted: string | null = null): string {
		return this.book.open(key, title, counted, () =>
			list.map(
				({ seen, won, day, reason, competitor }): Case => ({
					deal: seen.deal,
					day,
					owner: seen.owner,
					amount: seen.amountBase,
					came: won ? `won ${shortDay(day)}` : `lost ${shortDay(day)}: ${reason}${competitor === NOBODY ? "" : `, ${competitor}`}`,
					hit: counted ? won : null,
				}),
			),
		);
	}
	count(key: string, title: string, list: readonly Told[]): Cell {
		return list.length ? { kind: "count", value: list.length, opens: this.open(key, title, list) } : { kind: "count", value: null };
	}
	wonShare(key: string, title: string, list: readonly Told[]): Cell {
		return { kind: "share", share: shareOf(list.filter(({ won }) => won).length, list.length), opens: this.open(key, title, list, "were won") };
	}
	days(list: readonly Told[]): Cell {
		return { kind: "number", value: ages(list), digits: 1, unit: "d" };
	}
}

type Stages = readonly { readonly name: string; readonly rank: number }[];

function lossTable(stages: Stages, lost: readonly Told[], cell: Cells): PatternTable {
	return {
		key: "lost",
		title: "Lost, by reason",
		of: "Reason",
		columns: [
			{ words: "Deals", kind: "count" },
			{ words: "Share of losses", kind: "share" },
			{ words: "Amount", kind: "money" },
			{ words: "Days to close", kind: "number" },
			{ words: "Most often lost from", kind: "text" },
			{ words: "Most often lost to", kind: "text" },
		],
		rows: bySize(grouped(lost, ({ reason }) => [reason])).map(([reason, own]) => {
			const from = bySize(grouped(own, (one) => [stages[one.from]?.name ?? "no stage"]))[0];
			const to = bySize(
				grouped(
					own.filter(({ competitor }) => competitor !== NOBODY),
					({ competitor }) => [competitor],
				),
			)[0];
			return {
				key: reason,
				name: reason,
				cells: [
					cell.count(`lost:${reason}`, `Lost: ${reason}`, own),
					{ kind: "share", share: shareOf(own.length, lost.length) },
					{ kind: "money", minor: sum(own) },
					cell.days(own),
					text(from ? from[0] : "", from ? `${from[1].length} of ${own.length}` : undefined),
					text(to ? to[0] : "", to ? `${to[1].length} of ${own.length}` : undefined),
				],
			};
		}),
		empty: "No deals were lost in the last year.",
	};
}

const winTable = (won: readonly Told[], cell: Cells): PatternTable => ({
	key: "won",
	title: "Won, by reason",
	of: "Reason",
	half: true,
	columns: [
		{ words: "Deals", kind: "count" },
		{ words: "Amount", kind: "money" },
		{ words: "Days to close", kind: "number" },
	],
	rows: bySize(grouped(won, ({ reason }) => [reason])).map(([reason, own]) => ({
		key: reason,
		name: reason,
		cells: [cell.count(`won:${reason}`, `Won: ${reason}`, own), { kind: "money", minor: sum(own) }, cell.days(own)],
	})),
	empty: "No deals were won in the last year.",
});

const rivalTable = (all: readonly Told[], cell: Cells): PatternTable => ({
	key: "competitors",
	title: "Competitors",
	of: "Competitor",
	half: true,
	columns: [
		{ words: "Win rate, by count", kind: "share" },
		{ words: "Lost", kind: "count" },
		{ words: "Lost amount", kind: "money" },
		{ words: "Most losses in", kind: "text" },
	],
	rows: bySize(grouped(all, ({ competitor }) => [competitor])).map(([competitor, own]) => {
		const lost = own.filter(({ won }) => !won);
		const team = bySize(grouped(lost, (one) => [one.team]))[0];
		return {
			key: competitor,
			name: competitor,
			cells: [
				cell.wonShare(`met:${competitor}`, `Against ${competitor}`, own),
				cell.count(`lost-to:${competitor}`, `Lost to ${competitor}`, lost),
				{ kind: "money", minor: sum(lost) },
				text(team ? team[0] : "", team ? `${team[1].length} of ${lost.length}` : undefined),
			],
		};
	}),
	empty: "No deals were closed in the last year.",
});

const stageTable = (stages: Stages, lost: readonly Told[], cell: Cells): PatternTable => ({
	key: "stages",
	title: "Lost from which stage",
	of: "Stage",
	half: true,
	columns: [
		{ words: "Deals", kind: "count" },
		{ words: "Share of losses", kind: "share" },
		{ words: "Amount", kind: "money" },
		{ words: "Days to close", kind: "number" },
	],
	rows: [...grouped(lost, ({ from }) => [String(from)])]
		.sort(([a], [b]) => (stages[Number(a)]?.rank ?? -1) - (stages[Number(b)]?.rank ?? -1))
		.map(([from, own]) => {
			const name = stages[Number(from)]?.name ?? "none that was open";
			return {
				key: from,
				name,
				cells: [
					cell.count(`from:${from}`, `Lost from ${name}`, own),
					{ kind: "share", share: shareOf(own.length, lost.length) },
					{ kind: "money", minor: sum(own) },
					cell.days(own),
				],
			};
		}),
	empty: "No deals were lost in the last year.",
});

function daysTable(context: Context, all: readonly Told[], by: ReturnType<typeof groupingOf>, cell: Cells): PatternTable {
	const groups = [...grouped(all, ({ seen }) => by.of(context, seen.deal, seen.owner))].map(([group, own]) => ({
		group,
		name: by.nameOf(context, group),
		own,
	}));
	return {
		key: "days",
		title: `Win rate and days to close, ${by.words}`,
		of: by.words.replace("by ", ""),
		half: true,
		columns: [
			{ words: "Win rate, by count", kind: "share" },
			{ words: "Days to a win", kind: "number" },
			{ words: "Days to a loss", kind: "number" },
		],
		rows: groups
			.sort((a, b) => a.name.localeCompare(b.name))
			.map(({ group, name, own }) => ({
				key: group,
				name,
				cells: [cell.wonShare(`by:${group}`, name, own), cell.days(own.filter(({ won }) => won)), cell.days(own.filter(({ won }) => !won))],
			})),
		empty: "No deals were closed in the last year.",
	};
}

function timeTable(fiscalStart: number, lost: readonly Told[], cell: Cells): PatternTable {
	const quarters = [...grouped(lost, ({ day }) => [String(quarterOf(day, fiscalStart).start)])].sort(([a], [b]) => Number(a) - Number(b));
	return {
		key: "time",
		title: "Losses over time",
		lead: "The first and last quarters are counted only as far as the year goes.",
		of: "Reason",
		half: true,
		columns: quarters.map(([start]) => ({ words: periodWords(quarterOf(Number(start), fiscalStart)), kind: "count" })),
		rows: bySize(grouped(lost, ({ reason }) => [reason])).map(([reason, own]) => ({
			key: reason,
			name: reason,
			cells: quarters.map(([start]) =>
				cell.count(
					`time:${start}:${reason}`,
					`Lost in ${periodWords(quarterOf(Number(start), fiscalStart))}: ${reason}`,
					own.filter(({ day }) => quarterOf(day, fiscalStart).start === Number(start)),
				),
			),
		})),
		empty: "No deals were lost in the last year.",
	};
}

const SHOWN = 15;

/** Deals lost for a reason that ends one day, each with the day to come back to it. */
function backTable(context: Context, day: Day, lost: readonly Told[]): PatternTable {
	const { organisation } = context;
	const { reasonReturns, company } = organisation;
	const { fiscalStart, calendar } = company.rules;
	const ends = lost
		.filter(({ reason }) => reasonReturns[reason] !== undefined)
		.sort((a, b) => b.seen.amountBase - a.seen.amountBase || a.seen.deal - b.seen.deal);
	return {
		key: "back",
		title: "Lost for a reason that ends",
		lead: `${Object.keys(reasonReturns).length ? "Which reasons end, and when, is set in Setup." : "Set in Setup which reasons end: with the fiscal year, or some months after the loss."}${ends.length > SHOWN ? ` The largest ${SHOWN} of ${ends.length}.` : ""}`,
		of: "Deal",
		columns: [
			{ words: "Reason", kind: "text" },
			{ words: "Lost", kind: "day" },
			{ words: "Amount", kind: "money" },
			{ words: "Follow up", kind: "comeBack" },
		],
		rows: ends.slice(0, SHOWN).map(({ seen, reason, day: closed }) => {
			const open = (company.deals[seen.deal]?.tasks ?? []).map((task) => taskOn(task, day)).filter((task) => isOpenOn(task, day) && task.due !== NO_DAY);
			const back = open.reduce((first, { due }) => Math.min(first, due), Number.POSITIVE_INFINITY);
			const on = comeBackOn(reasonReturns[reason] ?? "year", closed, day + 1, fiscalStart, calendar);
			const id = organisation.deals[seen.deal]?.id ?? "";
			return {
				key: id,
				dealId: id,
				name: dealName(organisation, seen.deal),
				tiny: accountName(organisation, seen.deal),
				cells: [
					text(reason),
					{ kind: "day", iso: formatDay(closed) },
					{ kind: "money", minor: seen.amountBase },
					{
						kind: "comeBack",
						dealId: id,
						day: formatDay(on),
						back: Number.isFinite(back) ? formatDay(back) : null,
						title: `Follow up with ${accountName(organisation, seen.deal)}: lost on ${longDay(closed)}, ${reason.toLowerCase()}`.slice(0, 300),
					},
				],
			};
		}),
		empty: "No deals were lost for such a reason in the last year.",
	};
}

/** A competitor to whom one team loses clearly more of its losses than to others; the largest. */
function clusterOf(lost: readonly Told[]) {
	const found = bySize(
		grouped(
			lost.filter(({ competitor }) => competitor !== NOBODY),
			({ competitor }) => [competitor],
		),
	).flatMap(([competitor, own]) =>
		[...grouped(own, ({ team }) => [team])].flatMap(([team, there]) => {
			const rest = lost.filter((one) => one.competitor !== competitor);
			const [here, others] = [shareOf(there.length, own.length), shareOf(rest.filter((one) => one.team === team).length, rest.length)];
			return apart(here, others) && (here.share ?? 0) > (others.share ?? 1)
				? [{ competitor, team, k: there.length, of: own.length, others: others.share }]
				: [];
		}),
	);
	return found.sort((a, b) => b.k - a.k)[0];
}
