import { ownerIn } from "@/core/bridge/scope";
import { categoryOf } from "@/core/inspect";
import { shortMoney } from "@/core/money/words";
import type { AmountShare } from "@/core/patterns/records";
import type { Share } from "@/core/statistics/wilson";
import { surveyOn } from "@/core/survey";
import type { Period } from "@/core/time/period";
import { byCount, plural } from "@/core/words/grammar";
import type { Context } from "@/platform/context";
import { dealName } from "@/platform/names";
import { type Cell, text } from "../../table/view";
import type { Asked, Book, Case } from "../book";
import { grouped } from "../groups";
import { percent } from "../words";

/** What is in commit on the day itself and due in a period, by owner. */
export function todayBy(context: Context, { scope, day }: Asked, due: Period): Map<number, Case[]> {
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

/** What some deals in commit come to today; opens them. */
export const todayCell = (book: Book, key: string, title: string, cases: readonly Case[]): Cell =>
	cases.length ? { kind: "money", minor: amountOf(cases), opens: book.open(key, title, null, () => cases) } : { kind: "money", minor: null };

/** What is in commit and due in a period, and how much of it stands on reps whose commits hold less often. */
export function groundWords(shaky: readonly Case[], all: readonly Case[], reps: number, currency: string, due: string): string {
	const whole = `${plural(all.length, "deal")} of ${shortMoney(amountOf(all), currency)} ${byCount(all.length, "is", "are")} in commit, due ${due}`;
	return reps
		? `${whole}; ${shaky.length} of them, ${shortMoney(amountOf(shaky), currency)}, stand on the word of ${plural(reps, "rep")} whose commits come true less often.`
		: `${whole}.`;
}

/** A share by amount, with both amounts beside it, and the deal that is more than a third of it all. */
export function amountCell({ organisation }: Context, { k, n, share, largest }: AmountShare): Cell {
	const { base } = organisation.company.rules.rates;
	if (share === null || k === null || n === null) return text("");
	const mostly = largest ? `, ${percent(largest.part)} of it ${dealName(organisation, largest.deal)}` : "";
	return text(percent(share), `${shortMoney(k, base)} of ${shortMoney(n, base)}${mostly}`);
}

/** Whether a share reaches its goal, as far as chance lets that be said. */
export function goalCell({ share, low, high }: Share, goal: number): Cell {
	if (share === null || low === null || high === null) return text("");
	if (share >= goal) return text("reached", undefined, "better");
	return high < goal ? text("missed", undefined, "worse") : text("below it, within chance");
}

/** Some things by their owner. */
export const byOwner = <T extends { readonly owner: number }>(list: readonly T[]): Map<number, T[]> => grouped(list, ({ owner }) => [owner]);
