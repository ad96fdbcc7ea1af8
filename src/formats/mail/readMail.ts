import { type AddressObject, type Attachment, type EmailAddress, simpleParser } from "mailparser";

/** What is read of a mail that came in; plain, so that it can be handed from thread to thread. */
export interface ReadMail {
	readonly from: string;
	/** the sender’s name as the mail gives it; empty where it gives none */
	readonly fromName: string;
	/** whom it was for, by address in lower case: `To`, then `Cc` */
	readonly to: readonly Named[];
	/** ms since the epoch, as its `Date` says; null where that is none */
	readonly at: number | null;
	readonly messageId: string;
	readonly subject: string;
	/** what was written, without the mail quoted beneath it */
	readonly text: string;
	/** out-of-office notes, lists and loops (RFC 3834) */
	readonly automatic: boolean;
	/** what was attached to it: pictures within its text aren’t */
	readonly files: readonly MailFile[];
}

/** A file that came with a mail, by the name the mail gives it. */
export interface MailFile {
	readonly name: string;
	readonly bytes: Uint8Array;
}

/** An address in lower case, with the name beside it. */
export interface Named {
	readonly address: string;
	readonly name: string;
}

const MOST_PEOPLE = 200;
const MOST_HEADER = 64 * 1024;
const MOST_TEXT = 10_000;
const MOST_SUBJECT = 500;
const MOST_ID = 300;
const MOST_NAME = 200;
const MOST_FILES = 50;

/**
 * The addresses a mail names in `To`, `Cc` and `Delivered-To`, read from its header alone: nothing of the body is looked
 * at. As they stand there, most with their brackets; text in other charsets is left as it is, since no address has any.
 *
 * @param raw the whole message (RFC 5322)
 */
export function addressedTo(raw: Buffer): string[] {
	const head = raw.subarray(0, MOST_HEADER).toString("latin1");
	const end = /\r?\n\r?\n/.exec(head)?.index ?? head.length;
	const lines = head
		.slice(0, end)
		.replace(/\r?\n[ \t]+/g, " ")
		.split(/\r?\n/);
	return lines.flatMap((line) => {
		const [, value = ""] = /^(?:to|cc|delivered-to)\s*:(.*)$/i.exec(line) ?? [];
		return value.split(/[\s<>,;"]+/).filter((word) => word.includes("@"));
	});
}

/** Reads a mail; null for what isn't one (no sender), or can't be read. Done in a thread: a crafted one may take long. */
export async function readMail(raw: Uint8Array): Promise<ReadMail | null> {
	const mail = await simpleParser(Buffer.from(raw), { skipHtmlToText: false, skipImageLinks: true, skipTextLinks: true }).catch(() => null);
	const from = mail?.from?.value[0]?.address;
	if (!mail || !from) return null;
	return {
		from: storable(from).trim().toLowerCase().slice(0, MOST_ID),
		fromName: nameOf(mail.from?.value[0]?.name),
		to: [mail.to, mail.cc].flatMap(namedIn).slice(0, MOST_PEOPLE),
		at: instantOf(dateLine(raw)),
		messageId: storable(mail.messageId ?? "").slice(0, MOST_ID),
		subject: storable(mail.subject ?? "")
			.replace(/\s+/g, " ")
			.trim()
			.slice(0, MOST_SUBJECT),
		text: storable(answerOf(mail.text ?? "")).slice(0, MOST_TEXT),
		automatic: isAutomatic(mail.headers),
		files: mail.attachments.filter(isAttached).slice(0, MOST_FILES).map(fileOf),
	};
}

/** Pictures that the text shows, signatures and the like belong to the text. */
const isAttached = ({ related, contentDisposition, content, contentType }: Attachment) =>
	!related && contentDisposition !== "inline" && content.length > 0 && !/^application\/(pgp|pkcs7|x-pkcs7)-signature$/i.test(contentType);

const fileOf = ({ filename, content, contentType }: Attachment): MailFile => ({
	name: storable(filename ?? (contentType === "message/rfc822" ? "message.eml" : "file")),
	bytes: content,
});

const nameOf = (name: string | undefined) =>
	storable(name ?? "")
		.replace(/\s+/g, " ")
		.trim()
		.slice(0, MOST_NAME);

/** The people an address line names; those of a group one by one. */
function namedIn(line: AddressObject | AddressObject[] | undefined): Named[] {
	const flat = (one: EmailAddress): EmailAddress[] => (one.group ? one.group.flatMap(flat) : [one]);
	return [line ?? []]
		.flat()
		.flatMap(({ value }) => value.flatMap(flat))
		.flatMap(({ address, name }) => (address ? [{ address: storable(address).trim().toLowerCase().slice(0, MOST_ID), name: nameOf(name) }] : []));
}

/** An instant as RFC 5322 writes it, whose notes in brackets say nothing; null for what is none. */
function instantOf(line: string): number | null {
	const at = Date.parse(line.replace(/\([^)]*\)/g, " ").trim());
	return Number.isNaN(at) ? null : at;
}

/** The header’s `Date` as it stands there: where there is none, or one that is none, the parser takes the present. */
function dateLine(raw: Uint8Array): string {
	const head = Buffer.from(raw.subarray(0, MOST_HEADER)).toString("latin1");
	const end = /\r?\n\r?\n/.exec(head)?.index ?? head.length;
	return /(?:^|\n)date:([^\r\n]*)/i.exec(head.slice(0, end))?.[1] ?? "";
}

/** Text as a database can keep it: without zeros, and without halves of characters (UTF-8 has none). */
export const storable = (text: string): string => Buffer.from(text.replaceAll("\0", "")).toString();

function isAutomatic(headers: ReadonlyMap<string, unknown>): boolean {
	const auto = String(headers.get("auto-submitted") ?? "no").toLowerCase();
	return (
		!auto.startsWith("no") ||
		headers.has("list-id") ||
		["bulk", "junk", "list", "auto_reply"].includes(String(headers.get("precedence") ?? "").toLowerCase()) ||
		headers.has("x-auto-response-suppress")
	);
}

function answerOf(text: string): string {
	const lines = text.replaceAll("\r\n", "\n").split("\n");
	const quoted = lines.findIndex((line, i) => /^>/.test(line) || (/^On .*wrote:$/.test(line.trim()) && i > 0));
	return (quoted < 0 ? lines : lines.slice(0, quoted)).join("\n").trim();
}
