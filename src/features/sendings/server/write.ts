import { createHash } from "node:crypto";
import { eq, isNull } from "drizzle-orm";
import { worksOn } from "@/core/people/person";
import { formatDay } from "@/core/time/day";
import { isOfRhythm } from "@/core/time/rhythm";
import { longDay } from "@/core/time/words";
import { plural } from "@/core/words/grammar";
import { connection } from "@/data/db";
import { currentOrganisation } from "@/data/organisation/follow";
import { outbox, outboxFiles, sendings } from "@/data/schema";
import { post, written } from "@/features/reaching";
import { clock } from "@/platform/clock";
import { systemWrite } from "@/platform/command";
import type { Context } from "@/platform/context";
import { isDueAt, minutesOfDay } from "@/platform/dueTime";
import { Fault } from "@/platform/fault";
import { log } from "@/platform/log";
import { fileOf } from "@/platform/tableFile";
import { resolveViewpoint } from "@/platform/viewpoint";
import { LETTERS } from "./letters";
import type { Letter } from "./letters/letter";
import { tableMail } from "./tableMail";

type Sending = typeof sendings.$inferSelect;

/** Writes what is due by now, each once for everybody it goes to. Gives what was done. */
export async function writeSendings(): Promise<string[]> {
	const { db } = connection();
	const rows = await db.select().from(sendings).where(isNull(sendings.endedAt));
	if (!rows.length) return [];
	const organisation = await currentOrganisation(db);
	const now = clock(organisation);
	const { calendar } = organisation.company.rules;
	const minutes = minutesOfDay({ organisation }, now);
	let count = 0;
	for (const row of rows) {
		if (!isOfRhythm(row.rhythm, now.day, calendar) || !isDueAt(row.at, minutes)) continue;
		for (const id of row.to) {
			const index = organisation.personIndex.get(id);
			const person = index === undefined ? undefined : organisation.people[index];
			if (index === undefined || !person?.email || !worksOn(person, now.day) || row.sent[id]?.on === formatDay(now.day)) continue;
			// What fails for one is told to the others all the same.
			const done = await writeOne(row.id, { organisation, now, actor: { person, index } }).catch((error) => {
				log.warn({ sending: row.id, error: String(error) }, "sending not written");
				return false;
			});
			if (done) count++;
		}
	}
	return count ? [`${plural(count, "mail")} written`] : [];
}

/** What a sending tells somebody; null where it can't tell them anything, such as a team that isn't theirs to see. */
async function letterFor(context: Context, { kind, of, whose }: Sending): Promise<Letter | null> {
	try {
		const viewpoint = resolveViewpoint(context, { whose: whose || undefined });
		return (await LETTERS.find(({ key }) => key === kind)?.read(context, viewpoint, of)) ?? null;
	} catch (error) {
		if (error instanceof Fault) return null;
		throw error;
	}
}

/** Writes a sending for one person, and that it was written; the mail and what is noted of it in one transaction. */
async function writeOne(id: string, context: Context): Promise<boolean> {
	const { person } = context.actor;
	const on = formatDay(context.now.day);
	return systemWrite(async (tx) => {
		const [row] = await tx.select().from(sendings).where(eq(sendings.id, id)).for("update");
		const before = row?.sent[person.id];
		const letter = row && !row.endedAt && before?.on !== on ? await letterFor(context, row) : null;
		if (!row || !letter) return { result: false, touched: "nothing", audit: [] };
		const sum = createHash("sha256").update(JSON.stringify(letter.content.rows)).digest("hex");
		const skipped = row.skipSame && before?.sum === sum;
		await tx
			.update(sendings)
			.set({ sent: { ...row.sent, [person.id]: { on, sum, skipped } } })
			.where(eq(sendings.id, id));
		if (skipped) return { result: false, touched: "nothing", audit: [] };
		const key = `sending ${id} ${person.id} ${on}`;
		const posted = await post(tx, {
			key,
			personId: person.id,
			address: person.email ?? "",
			dealId: null,
			createdAt: new Date(context.now.instant),
			...mailOf(context, letter),
		});
		if (posted && row.attach) {
			const [mail] = await tx.select({ id: outbox.id }).from(outbox).where(eq(outbox.key, key));
			const { name, type, bytes } = await fileOf(letter.content, { key: row.kind, form: "xlsx", seen: on });
			if (mail) await tx.insert(outboxFiles).values({ outboxId: mail.id, name, type, bytes: Buffer.from(bytes) });
		}
		return { result: posted, touched: "nothing", audit: [] };
	});
}

/** A mail that reads by itself: what it says, its table, and where the live thing is, seen as of the day it was sent. */
function mailOf(context: Context, { subject, says, content, path }: Letter) {
	const on = formatDay(context.now.day);
	const link = `${path}${path.includes("?") ? "&" : "?"}seen=${on}`;
	const table = tableMail(content);
	return written(
		subject,
		says.join("\n"),
		[{ heading: "", lines: [{ words: `As of ${longDay(context.now.day)}: open it`, path: link }] }],
		content.rows.length ? table : undefined,
	);
}
