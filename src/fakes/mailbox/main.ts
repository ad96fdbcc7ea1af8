import { mkdirSync } from "node:fs";
import { createServer, type IncomingMessage } from "node:http";
import MailComposer from "nodemailer/lib/mail-composer";
import { SMTPServer } from "smtp-server";
import { v7 } from "uuid";
import { bodyOf, firstPart, fromOwnPage, same, show, toUs } from "./guard";
import { listPage, type Mail, mailPage, writePage } from "./pages";
import { receive } from "./receiver";
import { readMails, storeMail } from "./store";

// A small mail server that keeps what it is sent, with a page that shows it and answers it: so that mail can be tried
// without a real one. It runs on this machine alone, for those who were told its password (as a sender) or the code in its
// address (as a reader): others on this machine are neither. What it is told by: the ports, the folder, where answers go.
const {
	MAILBOX_SMTP_PORT = "2525",
	MAILBOX_PORT = "2580",
	MAILBOX_HOOK_PORT = "2590",
	MAILBOX_FOLDER = "var/mailbox",
	MAILBOX_CODE = "",
	MAILBOX_PASSWORD = "",
} = process.env;
const { PORCH_LAMP_ADDRESS = "", PORCH_LAMP_INBOUND = "" } = process.env;
const HOST = "127.0.0.1";
const MOST = 25 * 1024 * 1024;
/** bytes of a mail that is written here: so much that the program’s own bound is met */
const MOST_WRITTEN = 80 * 1024 * 1024;
if (!MAILBOX_CODE || !MAILBOX_PASSWORD) throw new Error("MAILBOX_CODE and MAILBOX_PASSWORD have to be set");

mkdirSync(MAILBOX_FOLDER, { recursive: true, mode: 0o700 });

const smtp = new SMTPServer({
	// It listens on loopback alone, where there is no line to listen in on.
	allowInsecureAuth: true,
	disabledCommands: ["STARTTLS"],
	onAuth: ({ password }, _, done) => (same(password ?? "", MAILBOX_PASSWORD) ? done(null, { user: "porch-lamp" }) : done(new Error("wrong password"))),
	size: MOST,
	// To try what happens when an address is refused.
	onRcptTo: ({ address }, _, done) => done(/^(nobody|refused)@/.test(address) ? Object.assign(new Error("no such mailbox"), { responseCode: 550 }) : null),
	onData(stream, _, done) {
		const parts: Buffer[] = [];
		stream.on("data", (part: Buffer) => parts.push(part));
		stream.on("end", () => {
			if (stream.sizeExceeded) return done(Object.assign(new Error("too large"), { responseCode: 552 }));
			storeMail(MAILBOX_FOLDER, Buffer.concat(parts)).then(
				() => done(),
				(error) => done(error as Error),
			);
		});
	},
});
smtp.on("error", () => undefined);
smtp.listen(Number(MAILBOX_SMTP_PORT), HOST);

const base = `/${MAILBOX_CODE}`;
const web = createServer((request, response) => {
	const work = async () => {
		if (!toUs(request, MAILBOX_PORT) || !same(firstPart(request), MAILBOX_CODE)) return response.writeHead(404).end();
		const url = new URL((request.url ?? "").slice(base.length) || "/", `http://${HOST}`);
		const mails = await readMails(MAILBOX_FOLDER);
		const [, id = "", what = ""] = /^\/mail\/([\w-]+)(?:\/(\w+))?$/.exec(url.pathname) ?? [];
		const mail = mails.find((one) => one.id === id);
		if (url.pathname === "/") return show(response, 200, listPage(base, mails, url.searchParams.get("to") ?? ""));
		if (url.pathname === "/write") {
			if (request.method !== "POST") return show(response, 200, writePage(base, url.searchParams.get("to") ?? ""));
			if (!fromOwnPage(request, MAILBOX_PORT)) return show(response, 403, writePage(base, "", "Only this page writes."));
			const { to, said } = await write(request);
			return show(response, 200, writePage(base, to, said));
		}
		if (!mail) return show(response, 404, listPage(base, mails, "", "There is no such mail."));
		if (what === "html") return show(response, 200, mail.html);
		if (what === "answer" && request.method === "POST") {
			if (!fromOwnPage(request, MAILBOX_PORT)) return show(response, 403, mailPage(base, mail, "Only this page answers."));
			const text = new URLSearchParams((await bodyOf(request)).toString("utf8")).get("text") ?? "";
			return show(response, 200, mailPage(base, mail, await answer(mail, text)));
		}
		show(response, 200, mailPage(base, mail));
	};
	work().catch((error: unknown) => show(response, 500, listPage(base, [], "", String(error))));
});
web.on("error", () => undefined);
web.listen(Number(MAILBOX_PORT), HOST);

const hooks = receive(Number(MAILBOX_HOOK_PORT), MAILBOX_CODE);

/** Answers a mail as whoever it was for, and says what became of the answer. */
async function answer(mail: Mail, text: string): Promise<string> {
	if (!text.trim()) return "Write something first.";
	const composer = new MailComposer({
		from: mail.to,
		to: mail.replyTo,
		subject: `Re: ${mail.subject}`,
		text,
		inReplyTo: mail.messageId,
		messageId: `<${v7()}@mailbox.example>`,
	});
	const { ok, words } = await handIn(composer);
	return ok === "logged" ? "Sent: the answer stands on its deal." : words;
}

/** Sends the program a mail that somebody writes here, with what is attached, and says what became of it. */
async function write(request: IncomingMessage): Promise<{ to: string; said: string }> {
	const form = await new Response(new Uint8Array(await bodyOf(request, MOST_WRITTEN)), {
		headers: { "content-type": request.headers["content-type"] ?? "" },
	}).formData();
	const field = (name: string) => String(form.get(name) ?? "");
	const files = form.getAll("files").filter((one): one is File => one instanceof File && one.name !== "");
	const composer = new MailComposer({
		from: field("from"),
		to: field("to"),
		subject: field("subject"),
		text: field("text"),
		messageId: `<${v7()}@mailbox.example>`,
		attachments: await Promise.all(files.map(async (file) => ({ filename: file.name, content: Buffer.from(await file.arrayBuffer()) }))),
	});
	const { ok, words } = await handIn(composer);
	return { to: field("to"), said: ok ? "Sent, and taken." : words };
}

/** Hands a mail in as a mail server does; `ok` is what became of it where it was taken. */
async function handIn(composer: MailComposer): Promise<{ ok: string | null; words: string }> {
	const raw = await composer.compile().build();
	const taken = await fetch(`${PORCH_LAMP_ADDRESS}/inbound/mail`, {
		method: "POST",
		headers: { authorization: `Bearer ${PORCH_LAMP_INBOUND}`, "content-type": "message/rfc822" },
		body: new Uint8Array(raw),
	}).catch(() => null);
	if (!taken) return { ok: null, words: "The program couldn’t be reached; nothing was sent." };
	const fate = (await taken.json()) as { fate?: string; why?: string; detail?: string };
	if (taken.ok && fate.fate !== "refused") return { ok: fate.fate ?? "", words: "" };
	return { ok: null, words: `Sent, and not taken: ${String(fate.why ?? fate.detail ?? taken.status).replace(/\.$/, "")}.` };
}

for (const signal of ["SIGINT", "SIGTERM"] as const)
	process.on(signal, () => {
		web.close();
		hooks.close();
		smtp.close(() => process.exit(0));
		setTimeout(() => process.exit(0), 1000).unref();
	});
