import { ownerIn } from "@/core/bridge/scope";
import type { DealSeen } from "@/core/inspect";
import { grouped as count } from "@/core/money/words";
import { type Closed, closedWithin, meanSaid, WINDOW } from "@/core/patterns/closed";
import { apart, shareOf } from "@/core/statistics/wilson";
import { longDay, shortDay } from "@/core/time/words";
import { plural } from "@/core/words/grammar";
import { surveyOn } from "@/platform/survey";
import { type Cell, type PatternTable, text } from "../../table/view";
import { Book, type Case, patternKind } from "../book";
import { DEAL_GROUPINGS, grouped } from "../groups";
import { percent, short, spelt } from "../words";

/** What each source of deals brought within a year, how much of it is won, and how soon; by kind of customer. */
export const sources = patternKind({
	key: "sources",
	words: "Sources",
	read(context, { scope, day }) {
		const { organisation } = context;
		const { company } = organisation;
		const survey = surveyOn(company, day);
		const book = new Book();
		const currency = company.rules.rates.base;
		const sourceOf = (deal: number) => spelt(organisation.deals[deal]?.source, "no source given");
		const closed = closedWithin(survey, scope, day);
		const brought = survey.deals.flatMap((seen) => {
			const created = company.deals[seen?.deal ?? -1]?.createdDay ?? 0;
			return seen && ownerIn(scope, seen.owner) && created > day - WINDOW && created <= day ? [seen] : [];
		});
		const bySource = grouped(closed, ({ seen }) => [sourceOf(seen.deal)]);
		const broughtBy = grouped(brought, ({ deal }) => [sourceOf(deal)]);
		const names = [...new Set([...broughtBy.keys(), ...bySource.keys()])];
		const closedCases = (list: readonly Closed[]) => (): Case[] =>
			list.map(({ seen, won, day: on }) => ({
				deal: seen.deal,
				day: on,
				owner: seen.owner,
				amount: seen.amountBase,
				came: `${won ? "won" : "lost"} ${shortDay(on)}`,
				hit: won,
			}));
		const seenCases = (list: readonly DealSeen[]) => (): Case[] =>
			list.map((seen) => ({ deal: seen.deal, day, owner: seen.owner, amount: seen.amountBase, came: seen.status, hit: null }));
		const shareCell = (key: string, title: string, list: readonly Closed[]): Cell => ({
			kind: "share",
			share: shareOf(list.filter(({ won }) => won).length, list.length),
			opens: book.open(key, title, "were won", closedCases(list)),
		});
		const sum = (list: readonly DealSeen[]) => list.reduce((all, { amountBase }) => all + amountBase, 0);
		const lines = names
			.map((name) => {
				const own = bySource.get(name) ?? [];
				const won = own.filter((one) => one.won);
				const others = closed.filter(({ seen }) => sourceOf(seen.deal) !== name);
				return {
					name,
					own,
					won,
					came: broughtBy.get(name) ?? [],
					share: shareOf(won.length, own.length),
					rest: shareOf(others.filter((one) => one.won).length, others.length),
				};
			})
			.sort((a, b) => sum(b.won.map(({ seen }) => seen)) - sum(a.won.map(({ seen }) => seen)) || b.came.length - a.came.length);
		const table: PatternTable = {
			key: "sources",
			title: "By source",
			lead: `Created: deals created in the year to ${longDay(day)}. Won and lost: deals closed in that year, whenever created, so the two don’t add up.`,
			of: "Source",
			columns: [
				{ words: "Created", kind: "count" },
				{ words: "Worth now", kind: "money" },
				{ words: "Win rate, by count", kind: "share" },
				{ words: "Won", kind: "money" },
				{ words: "Days to a win", kind: "number" },
				{ words: "Finding", kind: "text" },
			],
			rows: lines.map(({ name, own, won, came, share, rest }) => ({
				key: name,
				name,
				cells: [
					came.length
						? { kind: "count", value: came.length, opens: book.open(`brought:${name}`, `Created from ${name}`, null, seenCases(came)) }
						: { kind: "count", value: null },
					{ kind: "money", minor: sum(came) },
					shareCell(`closed:${name}`, `${name}: closed`, own),
					{ kind: "money", minor: sum(won.map(({ seen }) => seen)) },
					{ kind: "number", value: meanSaid(won.map(({ seen }) => seen.dealAge)), digits: 1, unit: "d" },
					!apart(share, rest)
						? text("")
						: (share.share ?? 0) > (rest.share ?? 0)
							? text("won more often than others", undefined, "better")
							: text("won less often than others", undefined, "worse"),
				],
			})),
			empty: "No deals were created or closed in the last year.",
		};
		const kindOf = (deal: number) => DEAL_GROUPINGS.kind.of(context, deal, -1)[0] ?? "";
		const kinds = [...new Set(closed.map(({ seen }) => kindOf(seen.deal)))].sort();
		const byKind: PatternTable = {
			key: "kinds",
			title: "Win rate by kind of customer",
			of: "Source",
			columns: kinds.map((kind) => ({ words: DEAL_GROUPINGS.kind.nameOf(context, kind), kind: "share" })),
			rows: lines.map(({ name, own }) => ({
				key: name,
				name,
				cells: kinds.map((kind) =>
					shareCell(
						`kind:${kind}:${name}`,
						`${name}, ${DEAL_GROUPINGS.kind.nameOf(context, kind)}`,
						own.filter(({ seen }) => kindOf(seen.deal) === kind),
					),
				),
			})),
			empty: "No deals were closed in the last year.",
		};
		const [most] = lines;
		const better = lines.filter(({ share, rest }) => apart(share, rest)).sort((a, b) => (b.share.share ?? 0) - (a.share.share ?? 0))[0];
		return {
			openings: book.openings,
			view: {
				headline: better
					? `${better.name}: ${percent(better.share.share)} won by count, all others ${percent(better.rest.share)}`
					: most
						? `${most.name} brought the largest won amount: ${short(sum(most.won.map(({ seen }) => seen)), currency)} of ${plural(most.won.length, "deal")}`
						: "No deals were created or closed in the last year",
				beside: better ? [] : closed.length ? ["No source has a clearly higher or lower win rate."] : [],
				about: "deals created or closed within a year",
				rests: [count(brought.length), `begun, ${closed.length} closed`],
				looked: null,
				groupings: [],
				by: null,
				currency,
				tables: [table, byKind],
			},
		};
	},
});
