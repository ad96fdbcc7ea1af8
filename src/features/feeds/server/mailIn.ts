import { and, eq, isNull } from "drizzle-orm";
import { connection } from "@/data/db";
import { dataFeeds } from "@/data/schema";
import { post, written } from "@/features/reaching";
import { addressedTo, type MailFile, type ReadMail } from "@/formats/mail/readMail";
import { Fault } from "@/platform/fault";
import { mailOf } from "@/platform/mailRead";
import { systemWrite } from "@/platform/write";
import { feedIn, isAddressOf, isSender } from "./address";
import { deliver, type Feed, type FeedRun } from "./deliver";
import { headOf, pathOf } from "./report";

/** A mail with all that is attached to it may be so large: files are written a third longer in mails. */
export const MOST_MAIL = 40 * 1024 * 1024;
/** ms */
const MOST_TIME = 60_000;
const TABLE = /\.(csv|tsv|txt|xlsx|zip)$/i;

/** Whether a mail is for a feed, by its header alone. */
export const isForFeed = (raw: Buffer): boolean => addressedTo(raw).some((address) => feedIn(address) !== null);

/** What became of a mail for a feed. */
export interface FeedMail {
	readonly fate: "taken" | "refused";
	readonly why: string;
}

/**
 * Imports what is attached to a mail for a feed, each table by itself; its sender gets the report. It counts only at
 * the feed’s own address, from a sender that the feed names; anybody else is told nothing.
 *
 * @param raw the whole message (RFC 5322)
 * @throws Fault 413 for one that is too large, 422 for one that can’t be read, 503 for one that took too long
 */
export async function takeFeedMail(raw: Buffer): Promise<FeedMail> {
	if (raw.length > MOST_MAIL)
		throw new Fault(413, "Too large", `A mail for a feed can have up to ${MOST_MAIL / 1024 / 1024} MB. Put the file into the feed’s folder instead.`);
	const feed = await feedAt(addressedTo(raw));
	if (!feed) return { fate: "refused", why: "there is no such feed" };
	const mail = await mailOf(raw, MOST_TIME);
	if (!isSender(feed.senders, mail.from)) return { fate: "refused", why: `${mail.from} isn’t one of the feed’s senders` };
	if (!feed.on) return { fate: "refused", why: "the feed is switched off" };
	const tables = mail.files.filter(({ name }) => TABLE.test(name));
	const runs: FeedRun[] = [];
	for (const { name, bytes } of tables as MailFile[]) runs.push(await deliver(feed, { way: "mail", name, bytes: new Uint8Array(bytes), sender: mail.from }));
	// A program isn’t answered, lest two of them write to each other for ever (RFC 3834); the people of the feed are told.
	if (!mail.automatic) await answer(feed, mail, runs);
	return runs.length ? { fate: "taken", why: "" } : { fate: "refused", why: "no table is attached to it" };
}

async function feedAt(addresses: readonly string[]): Promise<Feed | null> {
	for (const address of addresses) {
		const id = feedIn(address);
		if (!id) continue;
		const [feed] = await connection()
			.db.select()
			.from(dataFeeds)
			.where(and(eq(dataFeeds.id, id), isNull(dataFeeds.endedAt)));
		if (feed && isAddressOf(feed, address)) return feed;
	}
	return null;
}

/** The report of a mail, to its sender; the same mail is answered once. */
async function answer(feed: Feed, mail: ReadMail, runs: readonly FeedRun[]): Promise<void> {
	const subject =
		runs.length === 1 && runs[0]
			? headOf(runs[0]).slice(0, 150)
			: runs.length
				? `${runs.length} files came through ${feed.name}`
				: `Nothing came through ${feed.name}`;
	const intro = runs.length
		? `What came of your mail for ${feed.name}:`
		: `Your mail for ${feed.name} has no table attached. Attach the report as CSV, XLSX, or a zip of one of them.`;
	const letter = written(subject, intro, [{ heading: "", lines: runs.map((run) => ({ words: headOf(run), path: pathOf(run) })) }]);
	await systemWrite(async (tx) => {
		await post(tx, { ...letter, key: `feed ${feed.id} ${mail.messageId || runs[0]?.id || ""}`, address: mail.from, createdAt: new Date() });
		return { result: null, touched: "nothing", audit: [] };
	});
}
