import { and, desc, eq, isNull, lte, sql } from "drizzle-orm";
import { z } from "zod";
import { formatDay } from "@/core/time/day";
import { connection } from "@/data/db";
import { digestTimes, news, wishes } from "@/data/schema";
import { readViews } from "@/features/deals";
import { command, query } from "@/platform/command";
import type { Context } from "@/platform/context";
import { Fault } from "@/platform/fault";
import { HAPPENINGS } from "../happenings";
import { usualTimes } from "./digests";
import { newsWords } from "./newsWords";

const kinds = HAPPENINGS.map(({ kind }) => kind) as [string, ...string[]];
const mail = z.enum(["now", "digest", "never"]);

export const wishSchema = z
	.object({
		id: z.string(),
		kind: z.enum(kinds),
		words: z.string(),
		of: z.string().meta({ description: "the id of the view, for events of a view" }),
		ofWords: z.string().nullable(),
		onScreen: z.boolean(),
		mail,
	})
	.meta({ id: "Subscription" });
export type Wish = z.infer<typeof wishSchema>;

export interface Wishes {
	readonly wishes: readonly Wish[];
	readonly views: readonly { readonly id: string; readonly name: string }[];
	readonly daily: string | null;
	readonly weekly: string | null;
	readonly email: string | null;
}

/** How somebody hears of what: every kind of happening, as they wish or as usual; and when their digests come. */
export const readWishes = query("reaching.wishes", "ownSignIn", async (context: Context): Promise<Wishes> => {
	const { db } = connection();
	const { person } = context.actor;
	const own = await db.select().from(wishes).where(eq(wishes.personId, person.id));
	const [times] = await db.select().from(digestTimes).where(eq(digestTimes.personId, person.id));
	const views = await readViews(context);
	const { daily, weekly } = times ?? usualTimes(person.role);
	return {
		wishes: HAPPENINGS.flatMap(({ kind, label, usual, of }): Wish[] => {
			const chosen = own.filter((one) => one.kind === kind);
			if (of === "view")
				return chosen.map((one) => ({
					id: `${kind} ${one.of}`,
					kind,
					words: label,
					of: one.of,
					ofWords: views.find(({ id }) => id === one.of)?.name ?? "a view that is gone",
					onScreen: one.onScreen,
					mail: one.mail as Wish["mail"],
				}));
			const how = chosen[0] ?? usual;
			return [{ id: kind, kind, words: label, of: "", ofWords: null, onScreen: how.onScreen, mail: how.mail as Wish["mail"] }];
		}),
		views: views.map(({ id, name }) => ({ id, name })),
		daily,
		weekly,
		email: person.email,
	};
});

/** Says how one wishes to hear of a kind of happening. */
export const saveWish = command({
	name: "reaching.saveWish",
	right: "ownSignIn",
	input: z.object({ kind: z.enum(kinds), of: z.string().max(200).default(""), onScreen: z.boolean(), mail }),
	async run({ context, input, tx }) {
		const { person } = context.actor;
		const needs = HAPPENINGS.find(({ kind }) => kind === input.kind)?.of;
		if (needs === "view" && !(await readViews(context)).some(({ id }) => id === input.of))
			throw new Fault(422, "Which view", "Choose one of the views you see.");
		const row = { personId: person.id, kind: input.kind, of: needs ? input.of : "", onScreen: input.onScreen, mail: input.mail };
		await tx
			.insert(wishes)
			.values(row)
			.onConflictDoUpdate({ target: [wishes.personId, wishes.kind, wishes.of], set: { onScreen: row.onScreen, mail: row.mail } });
		return { result: {}, touched: "nothing", audit: { action: "notification set", subject: person.id, detail: { ...input } } };
	},
});

/** Takes a wish away: of its kind one hears as usual then, of a view no more. */
export const removeWish = command({
	name: "reaching.removeWish",
	right: "ownSignIn",
	input: z.object({ kind: z.enum(kinds), of: z.string().max(200).default("") }),
	async run({ context, input, tx }) {
		const { person } = context.actor;
		await tx.delete(wishes).where(and(eq(wishes.personId, person.id), eq(wishes.kind, input.kind), eq(wishes.of, input.of)));
		return { result: {}, touched: "nothing", audit: { action: "notification deleted", subject: person.id, detail: { ...input } } };
	},
});

const time = /^([01]\d|2[0-3]):[0-5]\d$/;
/** Says when one's digests come; null: never. */
export const saveDigestTimes = command({
	name: "reaching.saveDigests",
	right: "ownSignIn",
	input: z.object({
		daily: z.string().regex(time, "Write the time as 07:30.").nullable(),
		weekly: z
			.string()
			.regex(/^[1-7] ([01]\d|2[0-3]):[0-5]\d$/, "Write day and time as 1 07:30, where 1 is Monday.")
			.nullable(),
	}),
	async run({ context, input, tx }) {
		const { person } = context.actor;
		await tx
			.insert(digestTimes)
			.values({ personId: person.id, ...input })
			.onConflictDoUpdate({ target: digestTimes.personId, set: input });
		return { result: {}, touched: "nothing", audit: { action: "digests set", subject: person.id, detail: { ...input } } };
	},
});

export interface NewsItem {
	readonly id: number;
	readonly words: string;
	readonly path: string;
	/** day of the organisation's zone, ISO */
	readonly day: string;
	readonly read: boolean;
}

const SHOWN = 60;

/** What somebody was told on screen, the newest first. */
export const readNews = query("reaching.news", "readDesk", async (context: Context): Promise<{ items: NewsItem[]; unread: number }> => {
	const { db } = connection();
	const own = and(eq(news.personId, context.actor.person.id), eq(news.onScreen, true), lte(news.at, new Date(context.now.instant + 86_400_000)));
	const rows = await db.select().from(news).where(own).orderBy(sql`${news.readAt} is not null`, desc(news.id)).limit(SHOWN);
	return {
		items: rows.map(({ id, kind, facts, path, at, readAt }) => ({
			id,
			words: newsWords(kind, facts),
			path,
			day: formatDay(context.organisation.company.rules.zone.dayOf(at.getTime())),
			read: readAt !== null,
		})),
		unread: await db.$count(news, and(own, isNull(news.readAt))),
	};
});

/** Marks what one was told as read: some of it, or all. */
export const readNewsUpTo = command({
	name: "reaching.read",
	right: "readDesk",
	input: z.object({ ids: z.array(z.number().int()).max(500).optional() }),
	async run({ context, input: { ids }, tx }) {
		const own = and(eq(news.personId, context.actor.person.id), isNull(news.readAt));
		const rows = await tx
			.update(news)
			.set({ readAt: new Date(context.now.instant) })
			.where(ids ? and(own, sql`${news.id} = any(${sql.param(ids)}::int[])`) : own)
			.returning({ id: news.id });
		return { result: { count: rows.length }, touched: "nothing", audit: [] };
	},
});
