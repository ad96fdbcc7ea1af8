import { type Day, formatDay, parseDay } from "../../core/time/day";
import { type Period, quarterAt, quarterIndex } from "../../core/time/period";
import type { Value } from "../../formats/bundle/model";
import { Chance } from "./almanac";
import { REPS, teamOf } from "./cast";
import { type Ledger, minor, PER_EURO } from "./ledger";

/** How many times a team's open deals cover what is missing of the present quarter: one will make it, one depends on a few deals, one probably won't. */
const COVER: Readonly<Record<string, number>> = { North: 1.8, South: 1.6, Partners: 2.3 };
/** The least and most that is won of it when three fifths of the quarter are over. */
const [LEAST, MOST] = [0.37, 0.63];
const SO_FAR = 0.59;
/** Before a quarter of the quarter is over what was won says nothing yet. */
const EARLY = 0.25;
/** A quarter that is over ended between these shares of its target. */
const [WORST, BEST] = [0.76, 1.14];
/** Parts of the team's target, by turns. */
const WEIGHTS = [1, 1.2, 1.35, 0.9];
const STEP = 5000;

/** The quarters' targets, set as if somebody had known: a quarter that is over was met more or less, the present one is undecided. */
export function setTargets(ledger: Ledger, start: Day, seed: string): void {
	const { today } = ledger.almanac;
	const { wins, open } = standing(ledger);
	const teams = [...new Set(REPS.map((rep) => rep.team))];
	const before = new Map<string, number[]>();
	for (let quarter = quarterIndex(start, 1); quarter <= quarterIndex(today, 1) + 1; quarter++) {
		const period = quarterAt(quarter, 1);
		for (const team of teams) {
			const chance = new Chance(`${seed} target ${team} ${formatDay(period.start)}`);
			const of = (deals: readonly Deal[]) =>
				deals.filter((deal) => teamOf(deal.owner) === team && deal.day >= period.start && deal.day <= period.end).reduce((sum, deal) => sum + deal.euros, 0);
			const won = of(wins);
			const earlier = before.get(team) ?? [];
			const usual = earlier.slice(-4).reduce((sum, target) => sum + target, 0) / Math.max(1, Math.min(4, earlier.length));
			const target =
				period.end < today ? won / (WORST + chance.unit() * (BEST - WORST)) : openTarget(ledger, period, won, of(open) / (COVER[team] ?? 2), usual * 1.06);
			before.set(team, [...earlier, target]);
			share(ledger, period, team, target);
		}
	}
}

function openTarget({ almanac: { calendar, today } }: Ledger, period: Period, won: number, missing: number, usual: number): number {
	const over = calendar.between(period.start - 1, today) / calendar.between(period.start - 1, period.end);
	if (period.start > today || over < EARLY || !won) return usual;
	const share = (of: number) => Math.min(0.95, (of * over) / SO_FAR);
	return Math.min(won / share(LEAST), Math.max(won / share(MOST), won + missing));
}

function share(ledger: Ledger, period: Period, team: string, target: number): void {
	const reps = REPS.filter((rep) => rep.team === team && (rep.habit !== "left" || period.start <= ledger.almanac.today));
	const weight = (i: number) => WEIGHTS[i % WEIGHTS.length] ?? 1;
	const whole = reps.reduce((sum, _, i) => sum + weight(i), 0);
	reps.forEach((rep, i) =>
		ledger.add("targets.csv", {
			person_id: rep.id,
			period_start: formatDay(period.start),
			period_end: formatDay(period.end),
			amount: minor(Math.max(STEP, Math.round((target * weight(i)) / whole / STEP) * STEP), "EUR"),
			currency: "EUR",
		}),
	);
}

interface Deal {
	readonly owner: string;
	/** the day it closed, or is due */
	readonly day: Day;
	readonly euros: number;
}

/** What was won and what is open, in euros, roughly. */
function standing(ledger: Ledger): { wins: Deal[]; open: Deal[] } {
	const last = new Map<Value, Readonly<Record<string, Value>>>();
	for (const { fields } of ledger.rows.get("deal_versions.csv") ?? []) last.set(fields.deal_id ?? null, fields);
	const deal = ({ owner_id, close_date, amount, currency }: Readonly<Record<string, Value>>): Deal => ({
		owner: String(owner_id),
		day: parseDay(String(close_date)) ?? 0,
		euros: Number(amount) / 100 / (PER_EURO[String(currency)] ?? 1),
	});
	const all = [...last.values()];
	return { wins: all.filter(({ stage }) => stage === "Won").map(deal), open: all.filter(({ stage }) => stage !== "Won" && stage !== "Lost").map(deal) };
}
