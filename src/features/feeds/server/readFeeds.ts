import { and, asc, desc, eq, isNull, sql } from "drizzle-orm";
import { config } from "@/config/config";
import { worksOn } from "@/core/people/person";
import { formatDay } from "@/core/time/day";
import { connection } from "@/data/db";
import { dataFeeds, feedRuns, weeklyFiles } from "@/data/schema";
import { readContent } from "@/data/store/contents";
import { query } from "@/platform/command";
import type { Context } from "@/platform/context";
import { Fault, notFound } from "@/platform/fault";
import { chosenName, personName } from "@/platform/names";
import { feedAddress } from "./address";
import type { Feed, FeedRun } from "./deliver";
import { feedOf } from "./feeds";
import { folderName } from "./folderName";

/** A file that came, as a list tells of it. */
export interface RunView extends Pick<FeedRun, "id" | "way" | "name" | "state" | "words" | "day" | "before"> {
	readonly on: string;
	readonly at: string;
	readonly sender: string | null;
	/** it waited, and was imported by hand since */
	readonly byHand: boolean;
}

export interface FeedView extends Pick<Feed, "id" | "name" | "kind" | "covers" | "due" | "on"> {
	readonly by: string;
	readonly tell: readonly { readonly id: string; readonly name: string }[];
	readonly senders: readonly string[];
	readonly address: string;
	readonly url: string | null;
	readonly rule: string | null;
	/** a header is kept with the address */
	readonly hasHeader: boolean;
	/** when it was fetched last, and is fetched next; ISO instants */
	readonly fetchedAt: string | null;
	readonly nextAt: string | null;
	/** the folder that is watched; null where none is set */
	readonly folder: string | null;
	readonly runs: readonly RunView[];
	readonly waiting: number;
}

export interface FeedsView {
	readonly feeds: readonly FeedView[];
	readonly people: readonly { readonly id: string; readonly name: string }[];
	/** parts that weekly files are about so far */
	readonly parts: readonly string[];
	/** mails can come in at all */
	readonly takesMail: boolean;
	readonly zone: string;
	readonly today: string;
}

const SHOWN = 12;
const MOST = 1000;

/** All feeds with what came through each lately, the newest first. */
export const readFeeds = query("feeds.read", "importBundle", async (context: Context): Promise<FeedsView> => {
	const { organisation, now } = context;
	const { db } = connection();
	const { PORCH_LAMP_INBOX: inbox, PORCH_LAMP_INBOUND: inbound } = config();
	const rows = await db.select().from(dataFeeds).where(isNull(dataFeeds.endedAt)).orderBy(asc(dataFeeds.madeAt), asc(dataFeeds.id));
	const named = (id: string) => ({ id, name: personName(organisation, id) ?? id });
	const feeds: FeedView[] = [];
	for (const { id, name, kind, covers, due, on, byId, tell, senders, salt, url, rule, header, fetchedAt, nextAt } of rows) {
		const runs = await runsOf(context, id, SHOWN);
		feeds.push({
			...{ id, name, kind, covers, due, on, senders, runs, url, rule },
			hasHeader: header !== null,
			fetchedAt: fetchedAt?.toISOString() ?? null,
			nextAt: nextAt?.toISOString() ?? null,
			by: named(byId).name,
			tell: tell.map(named),
			address: feedAddress({ id, salt }),
			folder: inbox ? `${inbox}/${folderName(name)}` : null,
			waiting: runs.filter(({ state }) => state === "waits").length,
		});
	}
	const parts = await db.selectDistinct({ covers: weeklyFiles.covers }).from(weeklyFiles);
	return {
		feeds,
		people: organisation.people.flatMap((person, i) =>
			person.email && worksOn(person, now.day) ? [{ id: person.id, name: chosenName(organisation, i) }] : [],
		),
		parts: parts.flatMap(({ covers }) => covers || []).sort(),
		takesMail: Boolean(inbound),
		zone: organisation.company.rules.zone.name,
		today: formatDay(now.day),
	};
});

/** What came through a feed, the newest first. One that waited and was imported by hand since waits no more. */
export async function runsOf({ organisation }: Context, feedId: string, limit: number): Promise<RunView[]> {
	const { zone } = organisation.company.rules;
	const rows = await connection()
		.db.select({ run: feedRuns, byHand: sql<boolean>`exists (select from weekly_files f where f.digest = ${feedRuns.sha256})` })
		.from(feedRuns)
		.where(eq(feedRuns.feedId, feedId))
		.orderBy(desc(feedRuns.at), desc(feedRuns.id))
		.limit(limit);
	return rows.map(({ run: { id, way, name, state, words, day, before, at, sender: from }, byHand }) => ({
		...{ id, way, name, words, day, before },
		state: state === "waits" && byHand ? "imported" : state,
		byHand: state === "waits" && byHand,
		on: formatDay(zone.dayOf(at.getTime())),
		at: at.toISOString(),
		sender: way === "api" ? personName(organisation, from) : from,
	}));
}

/** What came through one feed over the last years, the newest first, as plain data. */
export const readFeedRuns = query("feeds.runs", "importBundle", async (context: Context, id: string) => {
	await feedOf(connection().db, id);
	const runs = await runsOf(context, id, MOST);
	return runs.map(({ on: _, byHand: __, ...run }) => run);
});

/** The bytes of a file that waits, to be looked at and imported by hand. */
export const readWaiting = query("feeds.waiting", "importBundle", async (_: Context, id: string): Promise<{ name: string; bytes: Uint8Array }> => {
	const { db } = connection();
	const [run] = await db
		.select()
		.from(feedRuns)
		.where(and(eq(feedRuns.id, id), eq(feedRuns.state, "waits")));
	if (!run?.sha256) throw notFound("file", id);
	const bytes = await readContent(db, run.sha256);
	if (!bytes) throw new Fault(404, "Its content is missing", `What ${run.name} held isn’t stored here. Tell the administrator of this server.`);
	return { name: run.name, bytes };
});
