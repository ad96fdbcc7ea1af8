import { ownerIn } from "@/core/bridge/scope";
import { worksOn } from "@/core/people/person";
import { countedOf } from "@/core/period/countByOwner";
import { figuresOf, type PeriodFigures } from "@/core/period/figures";
import { targetOf } from "@/core/period/target";
import { monthOf, type Period, quarterOf } from "@/core/time/period";
import { countedOn, teamsOf } from "@/features/period";
import { type Asked, column, inUnits, outsideTable } from "../table";

interface Source {
	readonly kind: string;
	readonly period: Period;
	readonly whose: string;
	readonly id: string | null;
	readonly figure: string;
	readonly value: number | null;
	readonly currency: string | null;
}

/** What of the figures of a period are amounts; what else there is is counted, or a share. */
const AMOUNTS = /^(target|gap|weighted|averageWon|.*\.amount)$/;
const SHARES = /^winRate\./;
const words = (path: string) => path.replace(/[A-Z]/g, (letter) => `_${letter.toLowerCase()}`).replaceAll(".", "_");

/** Figures by their names, such as `won_amount`. */
function* named(figures: object, before = ""): Generator<readonly [path: string, value: number | null]> {
	for (const [name, value] of Object.entries(figures))
		if (value !== null && typeof value === "object") yield* named(value, `${before}${name}.`);
		else yield [before + name, value as number | null];
}

/** The figures of a period, of everyone and one by one. */
function* ofPeriod({ organisation, scope, day }: Asked, kind: string, period: Period): Generator<Source> {
	const { targets, people, company } = organisation;
	const { rates } = company.rules;
	const counted = countedOn({ organisation }, period, day, day);
	const target = (of: ReadonlySet<number> | null) => targetOf(targets, period, of, rates, day);
	const told = function* (whose: string, id: string | null, figures: PeriodFigures): Generator<Source> {
		for (const [path, value] of named(figures)) {
			const amount = AMOUNTS.test(path) && !SHARES.test(path);
			yield { kind, period, whose, id, figure: words(path), value: amount ? inUnits(value, rates.base) : value, currency: amount ? rates.base : null };
		}
	};
	const of = (some: ReadonlySet<number> | null) => figuresOf(countedOf(counted, some), target(some));
	yield* told("everyone", null, of(scope));
	for (const { team, people: members } of teamsOf({ organisation }, scope)) yield* told("team", team, of(members));
	for (const [index, person] of people.entries()) {
		const only = new Set([index]);
		if (ownerIn(scope, index) && (counted.people.has(index) || worksOn(person, day) || target(only) !== null)) yield* told("person", person.id, of(only));
	}
}

export const figures = outsideTable<Source>(
	"figures",
	"The figures of the month and the quarter that the day lies in: of everyone, by team, by person.",
	[
		column("period", "text", "month or quarter, fiscal", ({ kind }) => kind),
		column("period_start", "day", "", ({ period }) => period.start),
		column("period_end", "day", "", ({ period }) => period.end),
		column("whose", "text", "everyone (whom the reader reaches), team or person", ({ whose }) => whose),
		column("whose_id", "text", "of a person; of a team its name", ({ id }) => id),
		column("figure", "text", "such as won_amount, open_count, target, gap, cover", ({ figure }) => figure),
		column("value", "decimal", "amounts in whole units of the base currency; nothing where there is none to say", ({ value }) => value),
		column("currency", "text", "of an amount", ({ currency }) => currency),
	],
	function* (asked) {
		const { fiscal } = asked.organisation.company.rules;
		yield [...ofPeriod(asked, "month", monthOf(asked.day, fiscal))];
		yield [...ofPeriod(asked, "quarter", quarterOf(asked.day, fiscal))];
	},
);
