import { createHash } from "node:crypto";
import { eq, isNull } from "drizzle-orm";
import { worksOn } from "@/core/people/person";
import { formatDay } from "@/core/time/day";
import { isOfRhythm, type Rhythm } from "@/core/time/rhythm";
import { longDay } from "@/core/time/words";
import { plural } from "@/core/words/grammar";
import { connection } from "@/data/db";
import { currentOrganisation } from "@/data/organisation/follow";
import { outbox, outboxFiles, type SendingRhythm, sendings } from "@/data/schema";
import { post, written } from "@/features/reaching";
import { plansOf } from "@/features/rounds";
import { clock } from "@/platform/clock";
import type { Context } from "@/platform/context";
import { isDueAt, minutesOfDay } from "@/platform/dueTime";
import { Fault } from "@/platform/fault";
import { log } from "@/platform/log";
import { fileOf } from "@/platform/tableFile";
import type { Told } from "@/platform/told";
import { resolveViewpoint, type Viewpoint } from "@/platform/viewpoint";
import { systemWrite } from "@/platform/write";
import { LETTERS } from "./letters";
import type { Letter } from "./letters/letter";
import { mailBody } from "./mailBody";
import { sheetNames } from "./sheetNames";

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
	const plans = await plansOf(db);
	let count = 0;
	for (const row of rows) {
		const rhythm = rhythmOf(row.rhythm, plans);
		if (!rhythm || !isOfRhythm(rhythm, now.day, calendar) || !isDueAt(row.at, minutes)) continue;
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

/** The days of a sending; null where the round it is sent before isn’t planned any more. */
function rhythmOf(rhythm: SendingRhythm, plans: readonly { readonly id: string; readonly weekday: number }[]): Rhythm | null {
	if (rhythm.kind !== "round") return rhythm;
	const plan = plans.find(({ id }) => id === rhythm.plan);
	return plan ? { kind: "weekdays", days: [plan.weekday] } : null;
}

interface Found {
	readonly letter: Letter;
	readonly viewpoint: Viewpoint;
}

/** What a sending tells somebody; null where it can't tell them anything, such as a team that isn't theirs to see. */
async function letterFor(context: Context, { kind, of, whose }: Sending): Promise<Found | null> {
	try {
		const viewpoint = resolveViewpoint(context, { whose: whose || undefined });
		const letter = await LETTERS.find(({ key }) => key === kind)?.read(context, viewpoint, of);
		return letter ? { letter, viewpoint } : null;
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
		const found = row && !row.endedAt && before?.on !== on ? await letterFor(context, row) : null;
		if (!row || !found) return { result: false, touched: "nothing", audit: [] };
		const sum = createHash("sha256")
			.update(JSON.stringify(found.letter.parts.map(toldOf)))
			.digest("hex");
		const skipped = row.skipSame && before?.sum === sum;
		await tx
			.update(sendings)
			.set({ sent: { ...row.sent, [person.id]: { on, sum, skipped } } })
			.where(eq(sendings.id, id));
		if (skipped) return { result: false, touched: "nothing", audit: [] };
		const key = `sending ${id} ${person.id} ${on}`;
		const { mail, pictures } = await mailOf(context, row, found);
		const address = person.email ?? "";
		const posted = await post(tx, { key, personId: person.id, address, dealId: null, createdAt: new Date(context.now.instant), ...mail });
		const [put] = posted ? await tx.select({ id: outbox.id }).from(outbox).where(eq(outbox.key, key)) : [];
		const files = [...pictures, ...(row.attach ? await workbookOf(found.letter, row.kind, on) : [])];
		if (put && files.length) await tx.insert(outboxFiles).values(files.map(({ bytes, ...file }) => ({ ...file, outboxId: put.id, bytes: Buffer.from(bytes) })));
		return { result: posted, touched: "nothing", audit: [] };
	});
}

/** What of a part is told when it moves: its table, or where it has none, its words. */
const toldOf = ({ content, says }: Told) => content?.rows ?? says;

/** All tables of a letter as one workbook; none where it has no tables. */
async function workbookOf({ parts }: Letter, key: string, seen: string) {
	const [first, ...others] = parts.flatMap(({ title, content }) => (content ? [{ title, content }] : []));
	if (!first) return [];
	const names = sheetNames(others.map(({ title }) => title));
	const sheets = others.map(({ content: { columns, rows } }, i) => ({ name: names[i] ?? `Table ${i + 2}`, columns, rows }));
	return [{ ...(await fileOf({ ...first.content, sheets }, { key, form: "xlsx", seen })), contentId: null }];
}

/** A mail that reads by itself: what it says, its pictures and tables, and where the live thing is, seen as of the day it was sent. */
async function mailOf({ now }: Context, { kind, whose }: Sending, { letter: { subject, says, parts, path }, viewpoint }: Found) {
	const own = LETTERS.find(({ key }) => key === kind)?.own;
	const sentence = new URLSearchParams({ ...(whose && !own ? { whose } : {}), seen: formatDay(now.day) }).toString();
	const live = (where: string) => `${where}${where.includes("?") ? "&" : "?"}${sentence}`;
	const { body, pictures } = await mailBody(parts, live);
	const of = own ? "" : `: ${viewpoint.whose.label} deals, ${viewpoint.due.label}`;
	const mail = written(subject, says.join("\n"), [{ heading: "", lines: [{ words: `As of ${longDay(now.day)}${of}. Open it`, path: live(path) }] }], body);
	return { mail, pictures };
}
