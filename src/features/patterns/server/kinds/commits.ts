import { ownerIn, type Scope } from "@/core/bridge/scope";
import { type Category, NONE } from "@/core/history/columns";
import { categoryOf } from "@/core/inspect";
import { grouped as count } from "@/core/money/words";
import { type Due, dueOver } from "@/core/patterns/due";
import { type Push, pushesWithin } from "@/core/patterns/pushes";
import { lastPeriods } from "@/core/patterns/quarters";
import { type Accuracy, type AmountShare, accuracyOf } from "@/core/patterns/records";
import { CALLS } from "@/core/rounds/calls";
import { apart, type Share, shareOf } from "@/core/statistics/wilson";
import { type Period, quarterOf } from "@/core/time/period";
import { periodWords, shortDay } from "@/core/time/words";
import { byCount, plural } from "@/core/words/grammar";
import { type CallTold, callsTold } from "@/features/rounds";
import type { Context } from "@/platform/context";
import { chosenName } from "@/platform/names";
import { surveyOn } from "@/platform/survey";
import { type Cell, type PatternTable, type Row, text } from "../../table/view";
import { type Asked, Book, type Case, dueCases, lookedView, patternKind } from "../book";
import { grouped } from "../groups";
import { percent, short } from "../words";

/** pushes of two years: there are few in one */
const PUSH_DAYS = 730;

const NOBODY: Accuracy = { count: shareOf(0, 0), amount: { k: null, n: null, share: null }, people: [] };

/** Whose commits held: by rep, by count and by amount, through the quarters, and by the calls of rounds; and who pushes when. */
export const commits = patternKind({
	key: "commits",
	words: "Commits",
	ofReader: true,
	async read(context, asked) {
		const { scope, day, look } = asked;
		const { organisation } = context;
		const { company, commitGoal } = organisation;
		const list = lastPeriods(company, "quarter", day, look.quarters, look.lead);
		const due = dueOver(company, list, scope);
		const book = new Book();
		const goal = commitGoal / 100;
		const [commit, best] = [accuracyOf(company, list, "commit", scope), accuracyOf(company, list, "best_case", scope)];
		const opens = (key: string, title: string, category: Category, holds: (one: Due) => boolean) =>
			book.open(key, title, "were won in time", () =>
				dueCases(
					context,
					due.filter((one) => categoryOf(company, one.seen) === category && holds(one)),
					"won",
				),
			);
		const others = (own: Share) => shareOf(commit.count.k - own.k, commit.count.n - own.n);
		const current = quarterOf(day, company.rules.fiscalStart);
		const dueNow = periodWords(current);
		const today = todayBy(context, asked, current);
		const owners = new Set([...commit.people, ...best.people].map(({ owner }) => owner));
		for (const owner of today.keys()) owners.add(owner);
		const lines = [...owners]
			.map((owner) => ({
				owner,
				name: owner === NONE ? "No owner" : chosenName(organisation, owner),
				commit: commit.people.find((one) => one.owner === owner) ?? NOBODY,
				best: best.people.find((one) => one.owner === owner) ?? NOBODY,
				today: today.get(owner) ?? [],
			}))
			.map((one) => ({
				...one,
				weak: apart(one.commit.count, others(one.commit.count)) && (one.commit.count.share ?? 1) < (others(one.commit.count).share ?? 0),
			}))
			.sort((a, b) => (b.commit.count.share ?? -1) - (a.commit.count.share ?? -1) || b.commit.count.n - a.commit.count.n || a.owner - b.owner);
		const cellsOf = (key: string, title: string, own: Pick<Accuracy, "count" | "amount">, beside: Share, holds: (one: Due) => boolean): Cell[] => [
			{ kind: "share", share: own.count, opens: opens(`${key}:commit`, `${title}: in commit`, "commit", holds) },
			amountCell(own.amount, company.rules.rates.base),
			goalCell(own.count, goal),
			{ kind: "share", share: beside, opens: opens(`${key}:best`, `${title}: in best case`, "best_case", holds) },
		];
		const byRep: PatternTable = {
			key: "reps",
			title: "By rep",
			lead: `Of the deals in commit on the day looked at, the share won by the quarter’s end; by amount; against the goal of ${commitGoal}%.`,
			of: "Rep",
			columns: [
				{ words: "In commit, won in time", kind: "share" },
				{ words: "By amount", kind: "text" },
				{ words: "Goal", kind: "text" },
				{ words: "In best case, won in time", kind: "share" },
				{ words: `In commit, due ${dueNow}`, kind: "money" },
				{ words: "Finding", kind: "text" },
			],
			rows: [
				...lines.map(
					(one): Row => ({
						key: organisation.people[one.owner]?.id ?? "none",
						name: one.name,
						cells: [
							...cellsOf(`rep:${one.owner}`, one.name, one.commit, one.best.count, ({ seen }) => seen.owner === one.owner),
							todayCell(book, `rep:${one.owner}:today`, `${one.name}: in commit, due ${dueNow}`, one.today),
							one.weak ? text("true less often than others’", undefined, "worse") : text(one.commit.count.share === null ? "" : "as others’"),
						],
					}),
				),
				{
					key: "all",
					name: "Total",
					total: true,
					cells: [
						...cellsOf("all", "Total", commit, best.count, () => true),
						todayCell(book, "all:today", `In commit, due ${dueNow}`, [...today.values()].flat()),
						text(""),
					],
				},
			],
			empty: "No deals were in commit.",
		};
		const quarters: PatternTable = {
			key: "quarters",
			title: "By quarter",
			of: "Quarter",
			columns: byRep.columns.slice(0, 4),
			rows: list.map((one) => {
				const words = periodWords(one.period);
				const own = accuracyOf(company, [one], "commit", scope);
				const start = one.period.start;
				return {
					key: String(start),
					name: words,
					tiny: `seen ${shortDay(one.day)}`,
					cells: cellsOf(`quarter:${start}`, words, own, accuracyOf(company, [one], "best_case", scope).count, ({ period }) => period.start === start),
				};
			}),
			empty: "No quarter has ended yet.",
		};
		const weak = lines.filter((one) => one.weak).sort((a, b) => (a.commit.count.share ?? 0) - (b.commit.count.share ?? 0));
		const shaky = weak.flatMap((one) => one.today);
		const pushes = pushesWithin(company, day, PUSH_DAYS).filter(({ owner }) => ownerIn(scope, owner));
		const [first] = weak;
		return {
			openings: book.openings,
			view: {
				headline: first
					? `${first.name}’s commits come true ${percent(first.commit.count.share)} of the time, others’ ${percent(others(first.commit.count).share)}`
					: commit.count.share === null
						? "Too few deals in commit to say how many came true"
						: `${percent(commit.count.share)} of what was in commit was won in time${commit.amount.share === null ? "" : `, ${percent(commit.amount.share)} by amount`}`,
				beside: [
					today.size ? groundWords(shaky, [...today.values()].flat(), weak.length, company.rules.rates.base, dueNow) : "",
					pushWords(context, pushes),
					"Reps have different deals: a lower share doesn’t show why.",
				].filter(Boolean),
				about: null,
				rests: [count(commit.count.n), `in commit, ${commit.count.k} won in time`],
				looked: lookedView(list),
				groupings: [],
				by: null,
				currency: company.rules.rates.base,
				tables: [byRep, quarters, callsTable(context, book, scope, await callsTold(context, day)), pushTable(context, book, pushes)],
			},
		};
	},
});

/** What is in commit on the day itself and due in a period, by owner. */
function todayBy(context: Context, { scope, day }: Asked, due: Period): Map<number, Case[]> {
	const { company } = context.organisation;
	return byOwner(
		surveyOn(company, day).deals.flatMap((seen): Case[] => {
			if (seen?.status !== "open" || !ownerIn(scope, seen.owner) || categoryOf(company, seen) !== "commit" || seen.close < due.start || seen.close > due.end)
				return [];
			return [{ deal: seen.deal, day, owner: seen.owner, amount: seen.amountBase, came: "open, in commit", hit: null }];
		}),
	);
}

const amountOf = (cases: readonly Case[]) => cases.reduce((sum, { amount }) => sum + (amount ?? 0), 0);

const todayCell = (book: Book, key: string, title: string, cases: readonly Case[]): Cell =>
	cases.length ? { kind: "money", minor: amountOf(cases), opens: book.open(key, title, null, () => cases) } : { kind: "money", minor: null };

function groundWords(shaky: readonly Case[], all: readonly Case[], reps: number, currency: string, due: string): string {
	const whole = `${plural(all.length, "deal")} of ${short(amountOf(all), currency)} ${byCount(all.length, "is", "are")} in commit, due ${due}`;
	return reps
		? `${whole}; ${shaky.length} of them, ${short(amountOf(shaky), currency)}, stand on the word of ${plural(reps, "rep")} whose commits come true less often.`
		: `${whole}.`;
}

const amountCell = ({ k, n, share }: AmountShare, currency: string): Cell =>
	text(share === null ? "" : percent(share), k !== null && n ? `${short(k, currency)} of ${short(n, currency)}` : undefined);

function goalCell({ share, low, high }: Share, goal: number): Cell {
	if (share === null || low === null || high === null) return text("");
	if (share >= goal) return text("reached", undefined, "better");
	return high < goal ? text("missed", undefined, "worse") : text("below it, within chance");
}

function callsTable(context: Context, book: Book, scope: Scope, calls: readonly CallTold[]): PatternTable {
	const { organisation } = context;
	const indexed = calls
		.map((one) => ({ ...one, deal: organisation.dealIndex.get(one.dealId) ?? NONE, owner: organisation.personIndex.get(one.of ?? "") ?? NONE }))
		.filter(({ owner }) => ownerIn(scope, owner));
	return {
		key: "calls",
		title: "Calls of rounds",
		lead: "How many of the calls that are settled by now came true.",
		of: "Call",
		half: true,
		columns: [
			{ words: "Came true", kind: "share" },
			{ words: "Not settled yet", kind: "count" },
		],
		rows: CALLS.map((call) => {
			const own = indexed.filter((one) => one.call === call);
			const told = own.filter(({ came }) => came !== null);
			const casesOf = (list: typeof own) => (): Case[] =>
				list.map(({ deal, owner, day, amount, came }) => ({
					deal,
					day,
					owner,
					amount,
					came: came === null ? "not settled yet" : came ? "came true" : "did not",
					hit: came,
				}));
			const open = own.length - told.length;
			return {
				key: call,
				name: call,
				cells: [
					{
						kind: "share",
						share: shareOf(told.filter(({ came }) => came).length, told.length),
						opens: book.open(`call:${call}`, `Called ${call}`, "came true", casesOf(told)),
					},
					open
						? {
								kind: "count",
								value: open,
								opens: book.open(`call:${call}:open`, `Called ${call}, not settled yet`, null, casesOf(own.filter(({ came }) => came === null))),
							}
						: { kind: "count", value: null },
				],
			};
		}),
		empty: "No rounds held yet.",
	};
}

const byOwner = <T extends { readonly owner: number }>(list: readonly T[]): Map<number, T[]> => grouped(list, ({ owner }) => [owner]);

const lateShare = (pushes: readonly Push[]) => shareOf(pushes.filter(({ monthEnd }) => monthEnd).length, pushes.length);

/** Who makes most of the pushes of months' ends, where that can be told apart from the others. */
function pushWords({ organisation }: Context, pushes: readonly Push[]): string {
	const late = pushes.filter(({ monthEnd }) => monthEnd).length;
	const found = [...byOwner(pushes)]
		.filter(([owner, own]) => {
			const rest = pushes.filter((one) => one.owner !== owner);
			return owner !== NONE && apart(lateShare(own), lateShare(rest)) && (lateShare(own).share ?? 0) > (lateShare(rest).share ?? 1);
		})
		.map(([owner, own]) => ({ owner, k: own.filter(({ monthEnd }) => monthEnd).length }))
		.sort((a, b) => b.k - a.k);
	const [most] = found;
	return most ? `${chosenName(organisation, most.owner)} made ${most.k} of the ${late} pushes in months’ last three working days.` : "";
}

function pushTable(context: Context, book: Book, pushes: readonly Push[]): PatternTable {
	const { organisation } = context;
	return {
		key: "pushes",
		title: "Pushes at month’s end",
		lead: "Close dates moved to a later day within two years, and how many were made in the last three working days of a month; about 14 in 100 would be chance.",
		of: "Rep",
		half: true,
		columns: [{ words: "In the last three days", kind: "share" }],
		rows: [...byOwner(pushes)]
			.map(([owner, own]) => ({ owner, own, share: lateShare(own) }))
			.sort((a, b) => (b.share.share ?? -1) - (a.share.share ?? -1) || b.own.length - a.own.length)
			.map(({ owner, own, share }) => {
				const name = owner === NONE ? "No owner" : chosenName(organisation, owner);
				const cases = (): Case[] =>
					own.map((one) => ({ deal: one.deal, day: one.day, owner, amount: null, came: `pushed on ${shortDay(one.day)}`, hit: one.monthEnd }));
				return {
					key: organisation.people[owner]?.id ?? "none",
					name,
					cells: [{ kind: "share", share, opens: book.open(`push:${owner}`, `${name}: pushes`, "in a month’s last three working days", cases) }],
				};
			}),
		empty: "No close date was moved to a later day.",
	};
}
