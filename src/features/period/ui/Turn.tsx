"use client";
import Link from "next/link";
import { plural } from "@/core/words/grammar";
import { nearDate, shortMoney } from "@/ui/format";
import type { PeriodView } from "../server/readPeriod";
import type { Days } from "./opens";
import { useOpens } from "./opens";

const NAMED = 4;

/** What is carried over, and on a period’s first days what it begins with: how the one before ended, which targets are missing, by when deals are to be made. */
export function Turn({ view, days }: { view: PeriodView; days: Days }) {
	const opens = useOpens(days);
	const { turn, carried, currency } = view;
	if (!turn && !carried.count) return null;
	const money = (amount: number) => shortMoney(amount, currency);
	return (
		<ul className="period-turn">
			{turn?.last && (
				<li>
					<Link href={opens.address("/period/closed", { due: turn.last.key })}>{turn.last.label}</Link> ended with {money(turn.last.won)}
					{turn.last.target
						? ` of ${money(turn.last.target)} won: ${Math.round((100 * turn.last.won) / turn.last.target)}%.`
						: ` won in ${plural(turn.last.count, "deal")}.`}
				</li>
			)}
			{carried.count > 0 && (
				<li className="period-carried">
					<b>
						{plural(carried.count, "deal")} of {money(carried.amount)} {carried.count === 1 ? "is" : "are"} carried over
					</b>
					: overdue, and nobody has decided{carried.act > 0 && `; ${carried.act} at act`}. <Link href={opens.deals()}>Decide them</Link>
				</li>
			)}
			{turn && turn.missing.names.length > 0 && (
				<li>
					{turn.missing.names.length === turn.missing.of
						? "Nobody has a target yet"
						: `No target yet for ${turn.missing.names.length} of ${plural(turn.missing.of, "rep")}`}
					{turn.missing.names.length <= NAMED && turn.missing.names.length < turn.missing.of && `: ${turn.missing.names.join(", ")}`}.{" "}
					{view.maySetTargets && <Link href="/setup?place=targets">Set targets</Link>}
				</li>
			)}
			{turn?.made && (
				<li>
					New deals count for this period if they are made by {nearDate(turn.made.by, days.seen)}: by then {turn.made.all ? "all" : "nine of ten"} were made of
					the {turn.made.wins} deals that were made and won within one of the last {turn.made.periods} quarters.
				</li>
			)}
		</ul>
	);
}
