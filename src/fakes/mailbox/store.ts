import { createHash } from "node:crypto";
import { readdir, readFile, rename, writeFile } from "node:fs/promises";
import { join } from "node:path";
import { simpleParser } from "mailparser";
import type { Mail } from "./pages";

const idOf = (messageId: string) => createHash("sha256").update(messageId).digest("hex").slice(0, 24);

/** Keeps a mail under its Message-ID: one that comes twice is there once. */
export async function storeMail(folder: string, raw: Buffer): Promise<void> {
	const parsed = await simpleParser(raw);
	const file = join(folder, `${idOf(parsed.messageId ?? raw.toString("base64"))}.eml`);
	// Written beside and moved there, so that one that is cut off is never half there.
	await writeFile(`${file}.part`, raw, { flush: true, mode: 0o600 });
	await rename(`${file}.part`, file);
}

const known = new Map<string, Mail>();

/** All mails that came, the newest first. */
export async function readMails(folder: string): Promise<Mail[]> {
	const names = (await readdir(folder)).filter((name) => name.endsWith(".eml"));
	const mails = await Promise.all(
		names.map(async (name) => {
			const before = known.get(name);
			if (before) return before;
			const parsed = await simpleParser(await readFile(join(folder, name)));
			const address = (field: typeof parsed.to) => (Array.isArray(field) ? field[0] : field)?.value[0]?.address ?? "";
			const mail: Mail = {
				id: name.slice(0, -4),
				messageId: parsed.messageId ?? "",
				at: parsed.date?.toISOString() ?? "",
				from: parsed.from?.text ?? "",
				to: address(parsed.to),
				replyTo: parsed.replyTo?.value[0]?.address ?? "",
				subject: parsed.subject ?? "",
				text: parsed.text ?? "",
				html: typeof parsed.html === "string" ? parsed.html : "",
			};
			known.set(name, mail);
			return mail;
		}),
	);
	return mails.sort((a, b) => (a.at < b.at ? 1 : -1));
}
