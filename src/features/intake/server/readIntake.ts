import { createHash } from "node:crypto";
import { createReadStream } from "node:fs";
import { open, readFile, stat } from "node:fs/promises";
import { Transform } from "node:stream";
import { and, eq } from "drizzle-orm";
import { mboxReader } from "mbox-reader";
import { parseDay } from "@/core/time/day";
import { makeZone } from "@/core/time/zone";
import { fileName } from "@/core/words/fileWords";
import { connection } from "@/data/db";
import { type IntakeFile, intakeItems, intakes, organisationSettings } from "@/data/schema";
import { keepContent } from "@/data/store/contents";
import { mediaTypeOf } from "@/features/attachments";
import { readMeetings } from "@/formats/calendar/meetings";
import { readCards } from "@/formats/cards";
import { type ReadMail, readMail } from "@/formats/mail/readMail";
import { instantNow } from "@/platform/clock";
import { systemWrite } from "@/platform/write";

type Item = Omit<typeof intakeItems.$inferInsert, "intakeId" | "ordinal">;
/** A file’s entries one after another, each with how many bytes of the file are read. */
type Entries = AsyncGenerator<{ readonly item: Item | null; readonly problem?: string; readonly done: number }>;

const BATCH = 200;
const MOST_ITEMS = 50_000;
const MOST_MESSAGE = 20 * 2 ** 20;
const MOST_TEXT_FILE = 5 * 2 ** 20;
/** RFC 5322 allows 998 signs; what has far longer lines isn’t mail, and would be gathered for ever */
const MOST_LINE = 2 ** 20;
const MOST_PROBLEMS = 100;

/** What a file is, by how it begins. */
async function kindOf(path: string): Promise<"calendar" | "cards" | "archive" | "message"> {
	const file = await open(path);
	try {
		const { buffer, bytesRead } = await file.read(Buffer.alloc(1024), 0, 1024, 0);
		const head = buffer
			.subarray(0, bytesRead)
			.toString("latin1")
			.replace(/^\u00ef\u00bb\u00bf/, "")
			.trimStart();
		if (/^BEGIN:VCALENDAR/i.test(head)) return "calendar";
		if (/^BEGIN:VCARD/i.test(head)) return "cards";
		return /^From \S/.test(head) ? "archive" : "message";
	} finally {
		await file.close();
	}
}

const keyOf = (mail: ReadMail) =>
	// Without an id of its own it is known by what it says.
	mail.messageId || `sum:${createHash("sha256").update(`${mail.from}\n${mail.at}\n${mail.subject}\n${mail.text}`).digest("hex")}`;

/** Stores what was attached, so that nothing but its sum is kept in memory. What isn’t logged is forgotten by itself. */
async function filesOf({ files }: ReadMail): Promise<IntakeFile[]> {
	const stored: IntakeFile[] = [];
	for (const { name, bytes } of files)
		stored.push({ name: fileName(name), type: await mediaTypeOf(bytes), size: bytes.length, sha256: await keepContent(connection().db, bytes) });
	return stored;
}

async function itemOf(raw: Uint8Array): Promise<Item | null> {
	const mail = await readMail(raw);
	if (!mail) return null;
	return {
		files: await filesOf(mail),
		sort: "message",
		key: keyOf(mail),
		at: mail.at === null || Math.abs(mail.at) > 4e12 ? null : new Date(mail.at),
		fromAddress: mail.from,
		fromName: mail.fromName,
		others: mail.to,
		subject: mail.subject || "No subject",
		body: mail.text,
		automatic: mail.automatic,
	};
}

async function* messageOf(path: string): Entries {
	const { size } = await stat(path);
	if (size > MOST_MESSAGE) yield { item: null, problem: "This message has more than 20 MB; it isn’t read.", done: size };
	else {
		const item = await itemOf(await readFile(path));
		yield item ? { item, done: size } : { item: null, problem: "This can’t be read as a message (RFC 5322): it has no sender.", done: size };
	}
}

/** A line that never ends is refused before it is gathered. */
function guarded(path: string) {
	let line = 0;
	return createReadStream(path).pipe(
		new Transform({
			transform(chunk: Buffer, _, done) {
				const end = chunk.lastIndexOf(10);
				line = end < 0 ? line + chunk.length : chunk.length - end;
				done(line > MOST_LINE ? new Error("a line of it is longer than a million signs") : null, chunk);
			},
		}),
	);
}

async function* messagesOf(path: string): Entries {
	let nth = 0;
	const { size } = await stat(path);
	const lines = guarded(path);
	try {
		for await (const { content, readSize } of mboxReader(lines)) {
			nth++;
			const item = content.length > MOST_MESSAGE ? null : await itemOf(content);
			yield item ? { item, done: readSize } : { item, problem: `Message ${nth} can’t be read: it has no sender, or more than 20 MB.`, done: readSize };
			if (nth >= MOST_ITEMS) return yield { item: null, problem: `Only the first ${MOST_ITEMS} messages are read.`, done: size };
		}
	} catch (error) {
		yield { item: null, problem: `Reading ended after ${nth} messages: ${(error as Error).message}.`, done: size };
	} finally {
		lines.destroy();
	}
}

async function* meetingsOf(path: string): Entries {
	const { size } = await stat(path);
	if (size > MOST_TEXT_FILE) return yield { item: null, problem: "A calendar has at most 5 MB; it isn’t read.", done: size };
	const { db } = connection();
	const [org] = await db.select({ zone: organisationSettings.timeZone }).from(organisationSettings);
	const zone = makeZone(org?.zone ?? "Europe/Berlin");
	const noon = (iso: string) => zone.instantAt(parseDay(iso) ?? 0, 12 * 3_600_000);
	const { meetings, problems } = readMeetings(await readFile(path, "utf8"), await instantNow(db), noon);
	for (const problem of problems) yield { item: null, problem, done: size };
	for (const { key, at, title, words, organizer, people, cancelled } of meetings)
		yield {
			item: {
				sort: "meeting",
				key: `ics:${key}`,
				at: new Date(at),
				fromAddress: organizer?.address ?? "",
				fromName: organizer?.name ?? "",
				others: people.filter(({ address }) => address !== organizer?.address),
				subject: title,
				body: words,
				cancelled,
			},
			done: size,
		};
}

async function* cardsOf(path: string): Entries {
	const { size } = await stat(path);
	if (size > MOST_TEXT_FILE) return yield { item: null, problem: "A file of cards has at most 5 MB; it isn’t read.", done: size };
	const { cards, problems } = readCards(await readFile(path, "utf8"));
	for (const problem of problems) yield { item: null, problem, done: size };
	for (const { name, title, email } of cards)
		yield { item: { sort: "card", key: email ?? name, fromAddress: email ?? "", fromName: name, subject: title ?? "", body: "" }, done: size };
}

const READERS = { message: messageOf, archive: messagesOf, calendar: meetingsOf, cards: cardsOf } as const;

/**
 * Reads a file that was put aside into the rows of its intake, telling how far it is; it ends where that was cancelled. Done in a
 * thread of its own: a crafted file takes time and memory.
 */
export async function readIntake({ id, path }: { readonly id: string; readonly path: string }): Promise<void> {
	const kind = await kindOf(path);
	const problems: string[] = [];
	let ordinal = 0;
	let batch: Item[] = [];
	/** Writes what was read, and what is known of the file; false where nobody waits for it any more, and nothing of it is left. */
	const write = (values: Partial<typeof intakes.$inferInsert>): Promise<boolean> => {
		const rows = batch.map((item) => ({ ...item, intakeId: id, ordinal: ordinal++ }));
		batch = [];
		return systemWrite(async (tx) => {
			const found = await tx
				.update(intakes)
				.set({ ...values, problems: problems.slice(0, MOST_PROBLEMS) })
				.where(and(eq(intakes.id, id), eq(intakes.state, "reading")));
			const waits = (found.rowCount ?? 0) > 0;
			if (!waits) await tx.delete(intakeItems).where(eq(intakeItems.intakeId, id));
			else if (rows.length) await tx.insert(intakeItems).values(rows);
			return { result: waits, touched: "nothing", audit: [] };
		});
	};
	if (!(await write({ archive: kind === "archive" }))) return;
	for await (const { item, problem, done } of READERS[kind](path)) {
		if (item) batch.push(item);
		if (problem) problems.push(problem);
		if (batch.length >= BATCH && !(await write({ done }))) return;
	}
	await write({ done: (await stat(path)).size, state: "ready" });
}
