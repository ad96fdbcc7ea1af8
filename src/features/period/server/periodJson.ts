import { z } from "zod";
import { ownerIn } from "@/core/bridge/scope";
import { CATEGORIES } from "@/core/history/columns";
import { worksOn } from "@/core/people/person";
import { type CountedByOwner, countedOf } from "@/core/period/countByOwner";
import { nothingCounted } from "@/core/period/counted";
import { differencesOf, figuresOf, type PeriodFigures } from "@/core/period/figures";
import { type Pace, paceOf } from "@/core/period/pace";
import { targetOf } from "@/core/period/target";
import { DAYS_TAKEN, type Day, formatDay, inBounds } from "@/core/time/day";
import { type Period, quarterOf } from "@/core/time/period";
import { query } from "@/platform/command";
import type { Context } from "@/platform/context";
import { dayAsked, periodAsked } from "@/platform/days";
import { Fault } from "@/platform/fault";
import { scopeOf } from "@/platform/reach";
import { countedOn } from "./counted";
import { teamsOf } from "./groups";

const whole = z.number().int();
const sum = z.object({ count: whole, amount: whole });
const rate = z.number().nullable();
const figures = z.object({
	target: whole.nullable(),
	won: sum,
	lost: sum,
	open: sum,
	leftBehind: sum,
	later: sum,
	undated: sum,
	categories: z.object(Object.fromEntries(CATEGORIES.map((category) => [category, sum])) as Record<(typeof CATEGORIES)[number], typeof sum>),
	weighted: whole,
	attention: z.object({ act: whole, watch: whole, calm: whole }),
	gap: whole.nullable(),
	cover: rate,
	commitCover: rate,
	needed: rate,
	winRate: z.object({ count: rate, amount: rate }),
	averageWon: whole.nullable(),
	averageCycle: rate,
});
const change = z.unknown().meta({ description: "each figure’s difference since `against`, in the shape of the figures; null where either figure is null" });
const earlier = z.object({ from: z.iso.date(), to: z.iso.date(), day: z.iso.date(), won: sum });

export const periodSchema = figures
	.extend({
		from: z.iso.date(),
		to: z.iso.date(),
		seen: z.iso.date(),
		against: z.iso.date().nullable(),
		currency: z.string(),
		pace: z.object({ workingDay: whole, workingDays: whole, previous: earlier, yearAgo: earlier }),
		people: z.array(figures.extend({ id: z.string(), name: z.string() })),
		teams: z.array(figures.extend({ id: z.string(), name: z.string() })),
		unowned: figures,
		change,
	})
	.meta({ id: "Period" });

export interface PeriodQuery {
	readonly from?: string | undefined;
	readonly to?: string | undefined;
	readonly as_of?: string | undefined;
	readonly against?: string | undefined;
	readonly team?: string | undefined;
	readonly owner?: string | undefined;
}

/** Where a period stands, as the API gives it. Without days it is the fiscal quarter of the day it is seen on. */
export const readPeriodOfApi = query("period.ofApi", "readPeriod", (context: Context, asked: PeriodQuery): z.infer<typeof periodSchema> => {
	const { organisation } = context;
	const { company } = organisation;
	const { rules } = company;
	const seen = dayAsked(context, "as_of", asked.as_of);
	const period = boundedPeriod(asked) ?? quarterOf(seen, rules.fiscal);
	const against = asked.against === undefined ? null : dayAsked(context, "against", asked.against);
	if (against !== null && against >= seen) throw new Fault(400, "Bad request", `against (${asked.against}) must be before as_of (${formatDay(seen)}).`);
	const scope = scopeOf(context, asked.team, asked.owner);
	const now = countedOn(context, period, seen, seen);
	const target = (people: ReadonlySet<number> | null) => targetOf(organisation.targets, period, people, rules.rates, seen);
	const of = (counted: CountedByOwner, people: ReadonlySet<number> | null) => figuresOf(countedOf(counted, people), target(people));
	const own = of(now, scope);
	const people = organisation.people.flatMap((person, index) => {
		const only = new Set([index]);
		const has = now.people.has(index) || worksOn(person, seen) || target(only) !== null;
		return ownerIn(scope, index) && has ? [{ id: person.id, name: person.name, ...of(now, only) }] : [];
	});
	return {
		from: formatDay(period.start),
		to: formatDay(period.end),
		seen: formatDay(seen),
		against: against === null ? null : formatDay(against),
		currency: rules.rates.base,
		...own,
		pace: paceJson(paceOf(company, period, scope, seen)),
		people,
		teams: teamsOf(context, scope).map(({ team, people: members }) => ({ id: team, name: team, ...of(now, members) })),
		unowned: figuresOf(scope === null ? now.unowned : nothingCounted(), null),
		change: against === null ? null : differencesOf<PeriodFigures>(own, of(countedOn(context, period, against, seen), scope)),
	};
});

/** The days asked for, both or none, as far as periods are told. */
function boundedPeriod({ from, to }: PeriodQuery): Period | null {
	if (!from && !to) return null;
	if (!from || !to) throw new Fault(400, "Bad request", "A period has both from and to, or neither for the fiscal quarter of the day it is seen on.");
	for (const [name, text] of Object.entries({ from, to })) if (!inBounds(text)) throw new Fault(400, "Bad request", `${name} is ${text}; ${DAYS_TAKEN}.`);
	return periodAsked(from, to);
}

function paceJson({ workingDay, workingDays, previous, yearAgo }: Pace) {
	const told = ({ start, end, day, won }: { start: Day; end: Day; day: Day; won: Pace["previous"]["won"] }) => ({
		from: formatDay(start),
		to: formatDay(end),
		day: formatDay(day),
		won,
	});
	return { workingDay, workingDays, previous: told(previous), yearAgo: told(yearAgo) };
}
