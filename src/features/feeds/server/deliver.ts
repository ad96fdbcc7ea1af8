import { and, desc, eq, inArray } from "drizzle-orm";
import { worksOn } from "@/core/people/person";
import { formatDay } from "@/core/time/day";
import { plural } from "@/core/words/grammar";
import { connection } from "@/data/db";
import { type dataFeeds, type FeedState, feedRuns } from "@/data/schema";
import { keepContent, sumOf } from "@/data/store/contents";
import { importFile } from "@/features/import";
import { type Context, contextFor } from "@/platform/context";
import { Fault } from "@/platform/fault";
import { newId } from "@/platform/ids";
import { log } from "@/platform/log";
import { may } from "@/platform/rights";
import { systemWrite } from "@/platform/write";

export type Feed = typeof dataFeeds.$inferSelect;
export type FeedRun = typeof feedRuns.$inferSelect;

/** A file as it came. */
export interface Delivery {
	readonly way: "mail" | "folder" | "api" | "address";
	readonly name: string;
	readonly bytes: Uint8Array;
	/** an address, or the id of who called */
	readonly sender: string | null;
}

interface Outcome {
	readonly state: FeedState;
	readonly words: string;
	readonly day?: string | null;
	readonly before?: string | null;
	readonly madeId?: string | null;
}

/**
 * Takes a file that came through a feed: what is plain is imported unasked, as the person whose feed it is; what would have to be
 * chosen or confirmed by hand waits with its question; the same file a second time does nothing.
 */
export async function deliver(feed: Feed, given: Delivery): Promise<FeedRun> {
	const sha256 = sumOf(given.bytes);
	const person = await contextFor(feed.byId);
	const at = new Date(person?.now.instant ?? Date.now());
	const run: FeedRun = {
		id: newId("run"),
		feedId: feed.id,
		at,
		way: given.way,
		name: given.name.slice(0, 300) || "file",
		sha256,
		size: given.bytes.length,
		sender: given.sender,
		state: "reading",
		words: "",
		day: null,
		before: null,
		madeId: null,
	};
	await systemWrite(async (tx) => {
		await tx.insert(feedRuns).values(run);
		return { result: null, touched: "nothing", audit: [] };
	});
	const outcome = await outcomeOf(feed, given, run, person);
	if (outcome.state === "waits") await keepContent(connection().db, given.bytes);
	return systemWrite(async (tx) => {
		const [done] = await tx.update(feedRuns).set(outcome).where(eq(feedRuns.id, run.id)).returning();
		return {
			result: done ?? run,
			touched: "nothing",
			audit: { action: "file came through a feed", subject: feed.id, detail: { feed: feed.name, file: run.name, way: run.way, state: outcome.state } },
		};
	}, feed.byId);
}

async function outcomeOf(feed: Feed, { name, bytes }: Delivery, run: FeedRun, person: Context | null): Promise<Outcome> {
	if (!person || !worksOn(person.actor.person, person.now.day) || !may(person.actor, "importBundle"))
		return { state: "refused", words: "The person this feed belongs to may no longer import. Someone of operations can take it over in Setup, Feeds." };
	const twin = await sameBefore(run);
	if (twin) {
		const day = formatDay(person.organisation.company.rules.zone.dayOf(twin.at.getTime()));
		return { state: "known", words: `The same file came on ${day} by ${twin.way}; nothing was done.` };
	}
	try {
		const done = await importFile(person, { kind: feed.kind, covers: feed.covers, name, bytes });
		if (done.kind === "bundle") return { state: done.ok ? "imported" : "refused", words: done.words, madeId: done.id };
		if (done.question) return { state: "waits", words: done.words, day: done.day };
		return {
			state: done.known ? "known" : "imported",
			words: done.known
				? `This file was imported for ${done.day} already; nothing was done.`
				: `${plural(done.fresh, "new deal")}, ${done.changed} changed, ${done.missing} missing.`,
			day: done.day,
			before: done.before,
			madeId: done.id,
		};
	} catch (error) {
		if (error instanceof Fault) return { state: "refused", words: error.detail };
		log.error({ error: String(error), feed: feed.id }, "a file of a feed couldn’t be imported");
		return { state: "failed", words: "An error in the program; nothing was imported. The file is to be sent again, or imported in Setup." };
	}
}

/** The newest run of the same feed whose very file was imported, known, or waits. */
async function sameBefore({ feedId, sha256 }: FeedRun): Promise<FeedRun | undefined> {
	const [twin] = await connection()
		.db.select()
		.from(feedRuns)
		.where(and(eq(feedRuns.feedId, feedId), eq(feedRuns.sha256, sha256 ?? ""), inArray(feedRuns.state, ["imported", "waits"])))
		.orderBy(desc(feedRuns.at))
		.limit(1);
	return twin;
}
