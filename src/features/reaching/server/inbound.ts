import { eq } from "drizzle-orm";
import { simpleParser } from "mailparser";
import { connection } from "@/data/db";
import { currentOrganisation } from "@/data/organisation/follow";
import { activities, answersIn, outbox } from "@/data/schema";
import { clock } from "@/platform/clock";
import { ownWrite } from "@/platform/command";
import { Fault } from "@/platform/fault";
import { newId } from "@/platform/ids";
import { answeredMail } from "./replyAddress";

/** A mail with all it carries may be so large; what is attached isn't kept. */
export const MOST_BYTES = 10 * 1024 * 1024;
const MOST_TEXT = 10_000;

export interface Taken {
	readonly fate: "logged" | "seen before" | "refused";
	readonly why: string;
}

/**
 * Takes an answer to one of our mails in: it is logged as an inbound activity of the mail's deal, once. An answer counts
 * only at the address that the mail gave for it, and from whom the mail was for; what machines answer is left alone.
 *
 * @param raw the whole message (RFC 5322)
 * @throws Fault 413 for one that is too large, 422 for one that can't be read
 */
export async function takeAnswer(raw: Buffer): Promise<Taken> {
	if (raw.length > MOST_BYTES)
		throw new Fault(413, "Too large", `A mail may have ${MOST_BYTES / 1024 / 1024} MB; this one has ${Math.ceil(raw.length / 1024 / 1024)}.`);
	const mail = await simpleParser(raw, { skipHtmlToText: false, skipImageLinks: true, skipTextLinks: true }).catch(() => null);
	if (!mail?.from?.value[0]?.address) throw new Fault(422, "Can’t be read", "This isn’t a mail: it has no sender.");
	const to = [mail.to, mail.cc]
		.flatMap((field) => (Array.isArray(field) ? field : field ? [field] : []))
		.flatMap(({ value }) => value.flatMap(({ address }) => address ?? []));
	const id = to.map(answeredMail).find((found) => found !== null) ?? null;
	const messageId = (mail.messageId ?? "").slice(0, 300);
	if (!id) return { fate: "refused", why: "it isn’t an answer to a mail of ours" };
	if (!messageId) return { fate: "refused", why: "it has no Message-ID, so it couldn’t be told whether it came before" };
	const [of] = await connection().db.select().from(outbox).where(eq(outbox.id, id));
	const why = !of
		? "the mail it answers is no longer known"
		: mail.from.value[0].address.toLowerCase() !== of.address.toLowerCase()
			? `it comes from ${mail.from.value[0].address}, and the mail was for ${of.address}`
			: isFromMachine(mail.headers)
				? "a machine wrote it"
				: of.dealId === null
					? "the mail was about no deal"
					: null;
	return ownWrite<Taken>(async (tx) => {
		const organisation = await currentOrganisation(connection().db);
		const now = new Date(clock(organisation).instant);
		const [fresh] = await tx
			.insert(answersIn)
			.values({ messageId, outboxId: id, at: now, fate: why ?? "logged" })
			.onConflictDoNothing()
			.returning();
		if (!fresh) return { result: { fate: "seen before", why: "it came before" }, touched: "nothing", audit: [] };
		const index = organisation.dealIndex.get(of?.dealId ?? "");
		const gone = why === null && index === undefined;
		if (why !== null || gone || !of?.dealId) return { result: { fate: "refused", why: why ?? "its deal is gone" }, touched: "nothing", audit: [] };
		await tx.insert(activities).values({
			id: newId("activity"),
			dealId: of.dealId,
			accountId: organisation.deals[index as number]?.accountId ?? null,
			contactIds: [],
			kind: organisation.activityKinds.find((kind) => /mail/i.test(kind)) ?? organisation.activityKinds[0] ?? "email",
			direction: "in",
			state: "done",
			at: now,
			recordedAt: now,
			byId: of.personId,
			subject: (mail.subject ?? "Answer").replace(/\s+/g, " ").slice(0, 500),
			body: answerOf(mail.text ?? "").slice(0, MOST_TEXT) || null,
		});
		return {
			result: { fate: "logged", why: "" },
			touched: [of.dealId],
			audit: { action: "answer logged", subject: of.dealId, detail: { mail: id } },
		};
	});
}

/** Out-of-office notes, lists and loops (RFC 3834): nobody wrote them. */
function isFromMachine(headers: ReadonlyMap<string, unknown>): boolean {
	const auto = String(headers.get("auto-submitted") ?? "no").toLowerCase();
	return (
		!auto.startsWith("no") ||
		headers.has("list-id") ||
		["bulk", "junk", "list", "auto_reply"].includes(String(headers.get("precedence") ?? "").toLowerCase()) ||
		headers.has("x-auto-response-suppress")
	);
}

/** What was written, without the mail that is quoted beneath it. */
function answerOf(text: string): string {
	const lines = text.replaceAll("\r\n", "\n").split("\n");
	const quoted = lines.findIndex((line, i) => /^>/.test(line) || (/^On .*wrote:$/.test(line.trim()) && i > 0));
	return (quoted < 0 ? lines : lines.slice(0, quoted)).join("\n").trim();
}
