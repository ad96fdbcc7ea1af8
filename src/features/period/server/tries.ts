import { and, desc, eq, inArray, isNotNull, or, sql } from "drizzle-orm";
import { z } from "zod";
import { ownerIn } from "@/core/bridge/scope";
import type { Company } from "@/core/company";
import { amountsBase, categoryOf, type DealSeen, rowOf } from "@/core/inspect";
import { type Counted, countedOf, kindIn } from "@/core/period/figures";
import { targetOf } from "@/core/period/target";
import { applyMoves, type Move, type Tried, type TriedDeal } from "@/core/period/try";
import { type Day, formatDay, NO_DAY, parseDay } from "@/core/time/day";
import { bounded, type Period } from "@/core/time/period";
import { spokenDay } from "@/core/time/words";
import { connection, type Tx } from "@/data/db";
import { tries } from "@/data/schema";
import { command, query } from "@/platform/command";
import type { Context } from "@/platform/context";
import { Fault, notFound } from "@/platform/fault";
import { newId } from "@/platform/ids";
import { idSchema } from "@/platform/input";
import { accountName, dealName, ownerName, personName } from "@/platform/names";
import { keptName, MOST_SHOWN, shareIn, sharingTeams } from "@/platform/sharing";
import { surveyOn } from "@/platform/survey";
import { resolveViewpoint, type Viewpoint } from "@/platform/viewpoint";
import { countedOn } from "./counted";

const whom = z.object({ field: z.enum(["deal", "category", "stage", "owner", "level", "flag"]), value: z.string().min(1).max(200) });
const move = z
	.object({
		whom,
		what: z.enum(["win", "drop", "push", "price"]),
		percent: z.number("A share is a number.").min(0, "A share can’t be negative.").max(1000),
	})
	.refine(({ what, percent }) => what === "price" || (percent > 0 && percent <= 100), "A share lies between 1 and 100 per cent.")
	.meta({ id: "Move" });

export const trySchema = z
	.object({
		id: z.string(),
		name: z.string(),
		whose: z.string(),
		due: z.string(),
		madeOn: z.iso.date(),
		moves: z.array(move),
		own: z.boolean(),
		by: z.string(),
		sharedWith: z.string().nullable(),
	})
	.meta({ id: "Try" });
export type SavedTry = z.infer<typeof trySchema>;

const MOST_OWN = 100;
const MOST_MOVES = 200;

/** One's own tries and those shared with one's team, the newest first; of one period and people where they are named. */
export const listTries = query("period.tries", "keepTries", async (context: Context, of?: { whose: string; due: string }): Promise<SavedTry[]> => {
	const me = context.actor.person.id;
	const teams = sharingTeams(context);
	const rows = await connection()
		.db.select()
		.from(tries)
		.where(
			and(or(eq(tries.ownerId, me), teams.length ? inArray(tries.sharedWith, teams) : undefined), of && eq(tries.whose, of.whose), of && eq(tries.due, of.due)),
		)
		// Where others share too many, one's own are all there.
		.orderBy(sql`${tries.ownerId} <> ${me}`, desc(tries.createdAt), tries.id)
		.limit(MOST_SHOWN);
	rows.sort((a, b) => b.createdAt.getTime() - a.createdAt.getTime() || (a.id < b.id ? -1 : 1));
	return rows.map((row) => tryJson(context, row));
});

const tryJson = ({ organisation, actor }: Context, row: typeof tries.$inferSelect): SavedTry => ({
	id: row.id,
	name: row.name,
	whose: row.whose,
	due: row.due,
	madeOn: row.madeOn,
	moves: row.moves,
	own: row.ownerId === actor.person.id,
	by: personName(organisation, row.ownerId) ?? "Somebody",
	sharedWith: row.sharedWith,
});

const wish = z.object({
	name: keptName("try"),
	whose: z.string().min(1).max(200),
	due: z.string().min(1).max(60),
	moves: z.array(move).min(1, "Move something first.").max(MOST_MOVES, `A try has at most ${MOST_MOVES} moves.`),
	shared: z.boolean().default(false),
});

/** Keeps a try under a name, of today. Nothing real changes. */
export const saveTry = command({
	name: "period.saveTry",
	right: "keepTries",
	input: wish,
	async run({ context, input, tx }) {
		const { whose, due } = resolveViewpoint(context, { whose: input.whose, due: input.due });
		demandBounded(due.period);
		const ownerId = context.actor.person.id;
		if ((await tx.$count(tries, eq(tries.ownerId, ownerId))) >= MOST_OWN)
			throw new Fault(422, "Too many tries", `You have ${MOST_OWN} tries; delete one first.`);
		const values = {
			id: newId(),
			ownerId,
			name: input.name,
			whose: whose.key,
			due: due.key,
			madeOn: formatDay(context.now.day),
			moves: input.moves as Move[],
			sharedWith: await shareIn(tx, context, tries, input.shared, "tries"),
		};
		const [row] = await tx.insert(tries).values(values).returning();
		if (!row) throw notFound("try", values.id);
		return {
			result: tryJson(context, row),
			touched: "nothing",
			audit: { action: "try saved", subject: values.id, detail: { name: input.name, shared: input.shared } },
		};
	},
});

/** Changes a try of one's own: its name, its moves, whom it is shared with. With other moves it is of today. */
export const changeTry = command({
	name: "period.changeTry",
	right: "keepTries",
	input: wish.pick({ name: true, moves: true, shared: true }).partial().extend({ id: idSchema }),
	async run({ context, input: { id, shared, moves, name }, tx }) {
		const was = await ownTry(tx, context, id);
		const set = {
			...(name === undefined ? {} : { name }),
			...(moves === undefined ? {} : { moves: moves as Move[], madeOn: formatDay(context.now.day) }),
			...(shared === undefined ? {} : { sharedWith: await shareIn(tx, context, tries, shared, "tries") }),
		};
		if (Object.keys(set).length) await tx.update(tries).set(set).where(eq(tries.id, id));
		return { result: {}, touched: "nothing", audit: { action: "try changed", subject: id, detail: { name: was.name, before: was, after: set } } };
	},
});

/** Takes a try of one's own away; one that is shared ops may take away too. */
export const removeTry = command({
	name: "period.removeTry",
	right: "keepTries",
	input: z.object({ id: idSchema }),
	async run({ context, input: { id }, tx }) {
		const row = await ownTry(tx, context, id, context.actor.person.role === "ops");
		await tx.delete(tries).where(eq(tries.id, id));
		return { result: {}, touched: "nothing", audit: { action: "try deleted", subject: id, detail: { name: row.name } } };
	},
});

async function ownTry(tx: Tx, context: Context, id: string, orShared = false): Promise<typeof tries.$inferSelect> {
	const mine = eq(tries.ownerId, context.actor.person.id);
	const [row] = await tx
		.select()
		.from(tries)
		.where(and(eq(tries.id, id), orShared ? or(mine, isNotNull(tries.sharedWith)) : mine))
		.for("update");
	if (!row) throw notFound("try of yours", id);
	return row;
}

function demandBounded(asked: Period | null): Period {
	const period = bounded(asked);
	if (!period) throw new Fault(422, "No period", "A try needs a period with a start and an end.");
	return period;
}

/** A deal that can be moved, with its names. */
export interface GroundDeal extends TriedDeal {
	readonly name: string;
	readonly account: string;
	readonly close: string;
}

/** What a try is made on: the open deals of a period and what is counted of it. */
export interface TryGround {
	readonly whose: string;
	readonly due: string;
	readonly real: Counted;
	readonly target: number | null;
	readonly deals: readonly GroundDeal[];
	/** flags that some deal carries, by code */
	readonly flags: readonly { readonly code: string; readonly label: string }[];
	readonly tries: readonly SavedTry[];
	readonly currency: string;
	readonly today: string;
}

/** The ground for trying out what would be; null where there is no period that begins and ends. */
export const readTryGround = query("period.tryGround", "keepTries", async (context: Context, viewpoint: Viewpoint): Promise<TryGround | null> => {
	const period = bounded(viewpoint.due.period);
	if (!period) return null;
	const { organisation } = context;
	const { company } = organisation;
	const { scope } = viewpoint.whose;
	const day = viewpoint.seen.day;
	const open = openIn(context, viewpoint, period, day);
	const codes = [...new Set(open.flatMap(({ flags }) => flags.map(({ code }) => code)))].sort();
	return {
		whose: viewpoint.whose.key,
		due: viewpoint.due.key,
		real: countedOf(countedOn(context, period, day, day), scope),
		target: targetOf(organisation.targets, period, scope, company.rules.rates, day),
		deals: open.map((seen) => groundDeal(context, seen, seen.amountBase)).sort((a, b) => b.amount - a.amount || (a.id < b.id ? -1 : 1)),
		flags: codes.map((code) => ({ code, label: code.replaceAll("-", " ") })),
		tries: await listTries(context, { whose: viewpoint.whose.key, due: viewpoint.due.key }),
		currency: company.rules.rates.base,
		today: formatDay(day),
	};
});

const openIn = ({ organisation: { company } }: Context, { whose }: Viewpoint, period: Period, day: Day): DealSeen[] =>
	surveyOn(company, day).deals.flatMap((seen) =>
		seen?.status === "open" && ownerIn(whose.scope, seen.owner) && kindIn(period, "open", seen.close, NO_DAY) === "open" ? [seen] : [],
	);

function groundDeal({ organisation }: Context, seen: DealSeen, amount: number): GroundDeal {
	const { company } = organisation;
	const stage = company.rules.stages[seen.stageIndex];
	return {
		id: organisation.deals[seen.deal]?.id ?? "",
		name: dealName(organisation, seen.deal),
		account: accountName(organisation, seen.deal),
		owner: ownerName(organisation, seen.owner),
		amount,
		category: categoryOf(company, seen) ?? "pipeline",
		probability: stage?.probability ?? { units: 0, scale: 0 },
		stage: stage?.name ?? "",
		level: seen.attention.level,
		flags: seen.flags.map(({ code }) => code),
		close: formatDay(seen.close),
	};
}

/** What a try said of a deal, and what came of it since. */
export interface CameTrue {
	readonly id: string;
	readonly name: string;
	readonly account: string;
	/** on the day the try was made; base minor units at today's rates */
	readonly before: number;
	readonly said: string;
	readonly now: string;
	readonly nowAmount: number;
	/** null: too early to tell, or nothing was said */
	readonly agrees: boolean | null;
}

export interface TryLater {
	readonly try: SavedTry;
	readonly madeWords: string;
	/** what was won of the period when it was made, as the try said, and now */
	readonly wonThen: number;
	readonly wonSaid: number;
	readonly wonNow: number;
	/** the deals it moved, and those that changed since */
	readonly deals: readonly CameTrue[];
	readonly currency: string;
}

/** A kept try beside what came of its deals, deal by deal. */
export const readTryLater = query("period.tryLater", "keepTries", async (context: Context, id: string): Promise<TryLater> => {
	const saved = (await listTries(context)).find((one) => one.id === id);
	const day = saved ? parseDay(saved.madeOn) : null;
	if (!saved || day === null) throw notFound("try", id);
	const { company } = context.organisation;
	const viewpoint = resolveViewpoint(context, { whose: saved.whose, due: saved.due });
	const period = demandBounded(viewpoint.due.period);
	const now = context.now.day;
	const amountOf = amountsBase(company, now);
	const open = openIn(context, viewpoint, period, day);
	const deals = open.map((seen) => groundDeal(context, seen, amountOf(rowOf(company.history, seen))));
	const won = (on: Day) => countedOf(countedOn(context, period, on, now), viewpoint.whose.scope);
	const result = applyMoves(won(day), deals, saved.moves as Move[]);
	return {
		try: saved,
		madeWords: spokenDay(day, now),
		wonThen: won(day).won.amount,
		wonSaid: result.counted.won.amount,
		wonNow: won(now).won.amount,
		deals: open.flatMap((seen, i) => {
			const [deal, tried] = [deals[i], result.deals[i]];
			return deal && tried ? (cameTrue(company, seen, surveyOn(company, now).deals[seen.deal] ?? null, deal, tried, period, amountOf) ?? []) : [];
		}),
		currency: company.rules.rates.base,
	};
});

function cameTrue(
	company: Company,
	then: DealSeen,
	now: DealSeen | null,
	deal: GroundDeal,
	tried: Tried,
	period: Period,
	amountOf: (row: number) => number,
): CameTrue | null {
	const nowAmount = now ? amountOf(rowOf(company.history, now)) : 0;
	const said = [tried.won && "won", tried.dropped && "dropped", tried.pushed && "pushed out", tried.priced && "at another price"].filter(Boolean).join(", ");
	const moved = now === null || now.status !== "open" || now.close !== then.close || nowAmount !== deal.amount || now.stageIndex !== then.stageIndex;
	if (!said && !moved) return null;
	const state = now === null ? "gone" : now.status === "open" ? (now.close > period.end || now.close === NO_DAY ? "pushed out" : "open") : now.status;
	const words = {
		gone: "removed",
		open: moved && now ? `open in ${company.rules.stages[now.stageIndex]?.name ?? ""}` : "open, as it was",
		"pushed out": "pushed out of the period",
		won: "won",
		lost: "lost",
	}[state];
	const expected = { won: tried.won > 0, lost: tried.dropped > 0, "pushed out": tried.pushed > 0, gone: tried.dropped > 0, open: false }[state];
	const agrees = !said || state === "open" || (tried.priced !== 0 && said === "at another price") ? null : expected;
	return { id: deal.id, name: deal.name, account: deal.account, before: deal.amount, said: said || "nothing", now: words, nowAmount, agrees };
}
