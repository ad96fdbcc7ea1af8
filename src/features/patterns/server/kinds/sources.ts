import { ownerIn } from "@/core/bridge/scope";
import { byId } from "@/core/deal/order";
import type { DealSeen } from "@/core/dealSeen";
import { grouped as count, shortMoney } from "@/core/money/words";
import { type Closed, closedWithin, meanSaid, WINDOW } from "@/core/patterns/closed";
import { shareWords } from "@/core/statistics/shareWords";
import { rowsApart } from "@/core/statistics/toldApart";
import { type Share, shareOf } from "@/core/statistics/wilson";
import { surveyOn } from "@/core/survey";
import type { Day } from "@/core/time/day";
import { longDay, shortDay } from "@/core/time/words";
import { plural } from "@/core/words/grammar";
import type { Context } from "@/platform/context";
import { type Cell, type PatternTable, text } from "../../table/view";
import { Book, type Case, patternKind } from "../book";
import { DEAL_GROUPINGS, grouped } from "../groups";
import { comparedWords, spelt } from "../words";

/** What each source of deals brought within a year, how much of it is won, and how soon; by kind of customer. */
export const sources = patternKind({
	key: "sources",
	label: "Sources",
	read(context, { scope, day }) {
		const { organisation } = context;
		const { company } = organisation;
		const survey = surveyOn(company, day);
		const book = new Book();
		const closed = closedWithin(company, survey, scope, day);
		const brought = survey.deals.flatMap((seen) => {
			const created = company.deals[seen?.deal ?? -1]?.createdDay ?? 0;
			return seen && ownerIn(scope, seen.owner) && created > day - WINDOW && created <= day ? [seen] : [];
		});
		const order = byId(company);
		brought.sort((a, b) => order(a.deal, b.deal));
		const lines = linesOf(closed, brought, (deal) => spelt(organisation.deals[deal]?.source, "no source given"));
		return {
			openings: book.openings,
			view: {
				...headlineOf(lines, closed.length, company.rules.rates.base),
				about: "deals created or closed within a year",
				rests: [count(brought.length), `begun, ${closed.length} closed`],
				looked: null,
				groupings: [],
				by: null,
				currency: company.rules.rates.base,
				tables: [bySourceTable(book, lines, day), byKindTable(context, book, lines, closed)],
			},
		};
	},
});

/** What one source brought: deals created, those closed, and won beside all others. */
interface Line {
	readonly name: string;
	readonly own: readonly Closed[];
	readonly won: readonly Closed[];
	readonly came: readonly DealSeen[];
	readonly share: Share;
	readonly rest: Share;
	/** the two differ by more than chance, among all sources */
	readonly apart: boolean;
}

const sum = (list: readonly DealSeen[]) => list.reduce((all, { amountBase }) => all + amountBase, 0);
const wonSum = ({ won }: Pick<Line, "won">) => sum(won.map(({ seen }) => seen));
const winRate = (list: readonly Closed[]) => shareOf(list.filter(({ won }) => won).length, list.length);

/** One line a source, the one that brought the largest won amount first. */
function linesOf(closed: readonly Closed[], brought: readonly DealSeen[], sourceOf: (deal: number) => string): Line[] {
	const bySource = grouped(closed, ({ seen }) => [sourceOf(seen.deal)]);
	const broughtBy = grouped(brought, ({ deal }) => [sourceOf(deal)]);
	const lines = [...new Set([...broughtBy.keys(), ...bySource.keys()])].map((name) => {
		const own = bySource.get(name) ?? [];
		const others = closed.filter(({ seen }) => sourceOf(seen.deal) !== name);
		return { name, own, won: own.filter((one) => one.won), came: broughtBy.get(name) ?? [], share: winRate(own), rest: winRate(others) };
	});
	const verdicts = rowsApart(lines.map(({ share, rest }) => [share, rest]));
	return lines.map((line, i): Line => ({ ...line, apart: verdicts[i] as boolean })).sort((a, b) => wonSum(b) - wonSum(a) || b.came.length - a.came.length);
}

const closedCases = (list: readonly Closed[]) => (): Case[] =>
	list.map(({ seen, won, day: on }) => ({
		deal: seen.deal,
		day: on,
		owner: seen.owner,
		amount: seen.amountBase,
		came: `${won ? "won" : "lost"} ${shortDay(on)}`,
		hit: won,
	}));

const shareCell = (book: Book, key: string, title: string, list: readonly Closed[]): Cell => ({
	kind: "share",
	share: winRate(list),
	opens: book.open(key, title, "were won", closedCases(list)),
});

function findingOf({ share, rest, apart }: Line): Cell {
	if (!apart) return text("");
	return (share.share ?? 0) > (rest.share ?? 0)
		? text("won more often than others", undefined, "better")
		: text("won less often than others", undefined, "worse");
}

function bySourceTable(book: Book, lines: readonly Line[], day: Day): PatternTable {
	const seenCases = (list: readonly DealSeen[]) => (): Case[] =>
		list.map((seen) => ({ deal: seen.deal, day, owner: seen.owner, amount: seen.amountBase, came: seen.status, hit: null }));
	return {
		key: "sources",
		title: "By source",
		lead: `Created: deals created in the year to ${longDay(day)}. Won and lost: deals closed in that year, whenever created, so the two don’t add up. ${comparedWords(
			"source",
			lines.map(({ share, rest }) => [share, rest]),
		)}`,
		of: "Source",
		columns: [
			{ label: "Created", kind: "count" },
			{ label: "Worth now", kind: "money" },
			{ label: "Win rate, by count", kind: "share" },
			{ label: "Won", kind: "money" },
			{ label: "Days to a win", kind: "number" },
			{ label: "Finding", kind: "text" },
		],
		rows: lines.map((line) => ({
			key: line.name,
			name: line.name,
			cells: [
				line.came.length
					? { kind: "count", value: line.came.length, opens: book.open(`brought:${line.name}`, `Created from ${line.name}`, null, seenCases(line.came)) }
					: { kind: "count", value: null },
				{ kind: "money", minor: sum(line.came) },
				shareCell(book, `closed:${line.name}`, `${line.name}: closed`, line.own),
				{ kind: "money", minor: wonSum(line) },
				{ kind: "number", value: meanSaid(line.won.map(({ seen }) => seen.dealAge)), digits: 1, unit: "d" },
				findingOf(line),
			],
		})),
		empty: "No deals were created or closed in the last year.",
	};
}

function byKindTable(context: Context, book: Book, lines: readonly Line[], closed: readonly Closed[]): PatternTable {
	const { kind: grouping } = DEAL_GROUPINGS;
	const kindOf = (deal: number) => grouping.partsOf(context, deal, -1)[0] ?? "";
	const kinds = [...new Set(closed.map(({ seen }) => kindOf(seen.deal)))].sort();
	return {
		key: "kinds",
		title: "Win rate by kind of customer",
		of: "Source",
		columns: kinds.map((kind) => ({ label: grouping.nameOf(context, kind), kind: "share" })),
		rows: lines.map(({ name, own }) => ({
			key: name,
			name,
			cells: kinds.map((kind) => {
				const ofKind = own.filter(({ seen }) => kindOf(seen.deal) === kind);
				return shareCell(book, `kind:${kind}:${name}`, `${name}, ${grouping.nameOf(context, kind)}`, ofKind);
			}),
		})),
		empty: "No deals were closed in the last year.",
	};
}

function headlineOf(lines: readonly Line[], closed: number, currency: string): { headline: string; beside: string[] } {
	const [most] = lines;
	const better = lines.filter(({ apart }) => apart).sort((a, b) => (b.share.share ?? 0) - (a.share.share ?? 0))[0];
	if (better) return { headline: `${better.name}: ${shareWords(better.share)} won by count, all others ${shareWords(better.rest)}`, beside: [] };
	return {
		headline: most
			? `${most.name} brought the largest won amount: ${shortMoney(wonSum(most), currency)} of ${plural(most.won.length, "deal")}`
			: "No deals were created or closed in the last year",
		beside: closed ? ["No source has a clearly higher or lower win rate."] : [],
	};
}
