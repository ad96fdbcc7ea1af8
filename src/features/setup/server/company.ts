import { exists, sql } from "drizzle-orm";
import { z } from "zod";
import { formatDay, parseDay } from "@/core/time/day";
import { connection, type Tx } from "@/data/db";
import { deals, holidays, organisationSettings, rates } from "@/data/schema";
import { fiscalBeforeSchema, fiscalWeeksSchema } from "@/formats/bundle/settings";
import { command, query } from "@/platform/command";
import type { Context } from "@/platform/context";
import { Fault } from "@/platform/fault";

const ZONES: ReadonlySet<string> = new Set([...Intl.supportedValuesOf("timeZone"), "UTC"]);
const CURRENCIES: ReadonlySet<string> = new Set(Intl.supportedValuesOf("currency"));

export const companySchema = z.object({
	name: z.string().trim().max(200, "A name has at most 200 letters."),
	baseCurrency: z.string().refine((code) => CURRENCIES.has(code), "This isn’t a currency of ISO 4217, such as EUR."),
	timeZone: z.string().refine((zone) => ZONES.has(zone), "This isn’t a time zone such as Europe/Berlin."),
	/** 1: January */
	fiscalStartMonth: z.number().int().min(1).max(12),
	/** null: by months */
	fiscalWeeks: fiscalWeeksSchema.nullable().default(null),
	/** calendars that held before, the first first; their years stay as they were */
	fiscalBefore: fiscalBeforeSchema.default([]),
	/** 0: Sunday */
	weekend: z.array(z.number().int().min(0).max(6)).max(6, "A week needs at least one working day."),
	holidays: z
		.array(
			z.object({
				date: z.string().refine((day) => parseDay(day) !== null, { error: ({ input }) => `${String(input)} isn’t a valid day; write it as 2026-12-25.` }),
				name: z.string().trim().max(100, "A holiday’s name has at most 100 letters."),
			}),
		)
		.max(2000),
});
export type Company = z.infer<typeof companySchema>;

export interface CompanyView {
	readonly company: Company;
	/** ISO */
	readonly today: string;
	/** the currency is fixed once there are deals or rates in it */
	readonly currencyFixed: boolean;
	readonly zones: readonly string[];
	readonly currencies: readonly string[];
	/** what comes first: there are no deals yet; the demo company is here, and whoever looks belongs to it or doesn't; null: all is well under way */
	readonly first: "no deals" | "own demo" | "demo of others" | null;
}

/** What the organisation is called, and what its days, years and amounts are reckoned by. */
export const readCompany = query("setup.company", "readRules", async (context: Context): Promise<CompanyView> => {
	const { db } = connection();
	const [row] = await db.select({ demo: organisationSettings.demo }).from(organisationSettings);
	const own = row?.demo?.people.includes(context.actor.person.id);
	const first = row?.demo ? (own ? "own demo" : "demo of others") : context.organisation.dealIndex.size ? null : "no deals";
	return {
		company: await companyIn(db),
		today: formatDay(context.now.day),
		currencyFixed: await hasAmounts(db),
		zones: [...ZONES],
		currencies: [...CURRENCIES],
		first,
	};
});

async function companyIn(db: Pick<Tx, "select">): Promise<Company> {
	const [row] = await db.select().from(organisationSettings);
	const days = await db.select().from(holidays).orderBy(holidays.date);
	return {
		name: row?.name ?? "",
		baseCurrency: row?.baseCurrency ?? "EUR",
		timeZone: row?.timeZone ?? "Europe/Berlin",
		fiscalStartMonth: row?.fiscalStartMonth ?? 1,
		fiscalWeeks: row?.fiscalWeeks ?? null,
		fiscalBefore: row?.fiscalBefore ?? [],
		weekend: row?.weekend ?? [6, 0],
		holidays: days.map(({ date, name }) => ({ date, name: name ?? "" })),
	};
}

async function hasAmounts(db: Pick<Tx, "select">): Promise<boolean> {
	const one = sql`1`;
	const [row] = await db
		.select({ some: sql<boolean>`${exists(db.select({ one }).from(deals))} or ${exists(db.select({ one }).from(rates))}` })
		.from(sql`(select 1) as nothing`);
	return Boolean(row?.some);
}

/** Changes it. Days of the past are reckoned anew with what is said here. */
export const saveCompany = command({
	name: "setup.saveCompany",
	right: "changeRules",
	input: companySchema,
	async run({ context, input: { holidays: days, ...wish }, tx }) {
		const before = await companyIn(tx);
		if (wish.baseCurrency !== before.baseCurrency && (await hasAmounts(tx)))
			throw new Fault(
				422,
				"The currency is fixed",
				`Amounts and rates are in ${before.baseCurrency} already. The currency of a company can be chosen only before its first import.`,
			);
		const twice = days.find(({ date }, i) => days.findIndex((other) => other.date === date) < i);
		if (twice) throw new Fault(422, "Named twice", `${twice.date} is in the list twice.`);
		await tx
			.insert(organisationSettings)
			.values({ id: 1, ...wish })
			.onConflictDoUpdate({ target: organisationSettings.id, set: wish });
		await tx.delete(holidays);
		if (days.length) await tx.insert(holidays).values(days.map(({ date, name }) => ({ date, name: name || null })));
		return {
			result: {},
			// Another zone or weekend moves every day.
			touched: "everything",
			audit: { action: "company changed", subject: formatDay(context.now.day), detail: { before, after: { ...wish, holidays: days } } },
		};
	},
});
