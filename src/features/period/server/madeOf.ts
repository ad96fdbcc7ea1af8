import { ownerIn } from "@/core/bridge/scope";
import { countedOf } from "@/core/period/countByOwner";
import { figuresOf } from "@/core/period/figures";
import { workingDayOf } from "@/core/period/pace";
import { targetOf, targetParts } from "@/core/period/target";
import { formatDay } from "@/core/time/day";
import { bounded, type Period } from "@/core/time/period";
import { connection } from "@/data/db";
import { contactRows } from "@/data/queries/contacts";
import { query } from "@/platform/command";
import type { Context } from "@/platform/context";
import { accountName, chosenName, dealName, personName } from "@/platform/names";
import { reachesToday } from "@/platform/reachDeal";
import type { Viewpoint } from "@/platform/viewpoint";
import type { Made } from "../table/figures";
import { countedOn } from "./counted";
import { contactSpan, contactsOn } from "./measure";

/** A target with the share of it that counts in the period. */
export interface MadeTarget {
	readonly person: string;
	readonly start: string;
	readonly end: string;
	readonly amount: number;
	readonly currency: string;
	/** so many of its days lie in the period, of so many */
	readonly days: number;
	readonly ofDays: number;
	/** in base minor units */
	readonly counts: number;
}

export interface MadeContact {
	readonly id: string;
	readonly day: string;
	readonly person: string;
	readonly kind: string;
	/** null where its deal is out of reach */
	readonly subject: string | null;
	readonly deal: { readonly id: string; readonly name: string } | null;
	readonly account: string | null;
}

/** What a figure is made of; what belongs to another kind of figure is empty. */
export interface MadeOf {
	readonly of: Made;
	readonly currency: string;
	readonly target: number | null;
	readonly won: number;
	readonly gap: number | null;
	readonly targets: readonly MadeTarget[];
	/** contacts, or planned ones that were left undone: by whom, and each of them */
	readonly people: readonly { readonly id: string; readonly name: string; readonly count: number }[];
	readonly contacts: readonly MadeContact[];
	readonly count: number;
	/** working days of the period so far */
	readonly workingDays: number;
}

/** What makes a figure of the period that isn't made of deals, each part of it to be checked by hand; null where no period begins and ends. */
export const readMadeOf = query(
	"period.madeOf",
	"readPeriod",
	async (context: Context, viewpoint: Viewpoint, of: Made, limit: number): Promise<MadeOf | null> => {
		const period = bounded(viewpoint.due.period);
		if (!period) return null;
		const { organisation } = context;
		const { rules } = organisation.company;
		const { scope } = viewpoint.whose;
		const seen = viewpoint.seen.day;
		const figures = figuresOf(countedOf(countedOn(context, period, seen, seen), scope), targetOf(organisation.targets, period, scope, rules.rates, seen));
		return {
			of,
			currency: rules.rates.base,
			target: figures.target,
			won: figures.won.amount,
			gap: figures.gap,
			targets: targetParts(organisation.targets, period, scope, rules.rates, seen).map(({ target, days, counts }) => ({
				person: chosenName(organisation, target.person),
				start: formatDay(target.start),
				end: formatDay(target.end),
				amount: target.amount,
				currency: target.currency,
				days,
				ofDays: target.end - target.start + 1,
				counts,
			})),
			workingDays: workingDayOf(rules.calendar, period, seen),
			...(of === "contacts" || of === "undone" ? await contactsOf(context, viewpoint, period, of === "contacts" ? "done" : "undone", limit) : NO_CONTACTS),
		};
	},
);

const NO_CONTACTS = { people: [], contacts: [], count: 0 };

async function contactsOf(context: Context, { whose, seen }: Viewpoint, period: Period, which: "done" | "undone", limit: number) {
	const { organisation } = context;
	const counts = await contactsOn(context, period, seen.day);
	const people = organisation.people.flatMap((person, i) => {
		const count = ownerIn(whose.scope, i) ? (counts.get(i)?.[which] ?? 0) : 0;
		return count ? [{ id: person.id, name: chosenName(organisation, i), count }] : [];
	});
	const ids = people.map(({ id }) => id);
	const rows = ids.length ? await contactRows(connection().db, contactSpan(context, period, seen.day), which, ids, limit) : [];
	return {
		people: people.sort((a, b) => b.count - a.count || a.name.localeCompare(b.name)),
		count: people.reduce((sum, { count }) => sum + count, 0),
		contacts: rows.map((row): MadeContact => {
			const within = row.dealId === null || reachesToday(context, row.dealId);
			const deal = row.dealId === null ? undefined : organisation.dealIndex.get(row.dealId);
			return {
				id: row.id,
				day: row.day,
				person: personName(organisation, row.byId) ?? "",
				kind: row.kind,
				subject: within ? row.subject : null,
				deal: within && row.dealId !== null && deal !== undefined ? { id: row.dealId, name: dealName(organisation, deal) } : null,
				account:
					within && deal !== undefined ? accountName(organisation, deal) : (organisation.accounts.get(within ? (row.accountId ?? "") : "")?.name ?? null),
			};
		}),
	};
}
