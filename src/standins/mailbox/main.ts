import { mkdirSync } from "node:fs";
import { createServer, type IncomingMessage } from "node:http";
import MailComposer from "nodemailer/lib/mail-composer";
import { SMTPServer } from "smtp-server";
import { v7 } from "uuid";
import { type Call, hooksPage, listPage, type Mail, mailPage } from "./pages";
import { readMails, storeMail } from "./store";

// A small mail server that keeps what it is sent, with a page that shows it and answers it: so that mail can be tried
// without a real one. It runs on this machine alone. What it can be told by: the ports, the folder, where answers go.
const { MAILBOX_SMTP_PORT = "2525", MAILBOX_PORT = "2580", MAILBOX_FOLDER = "var/mailbox", PORCH_LAMP_ADDRESS = "", PORCH_LAMP_INBOUND = "" } = process.env;
const HOST = "127.0.0.1";
const MOST = 25 * 1024 * 1024;

mkdirSync(MAILBOX_FOLDER, { recursive: true });

const smtp = new SMTPServer({
	authOptional: true,
	disabledCommands: ["AUTH", "STARTTLS"],
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

/** Webhooks that came, the newest first; they are forgotten when this ends. */
const calls: Call[] = [];
const MOST_CALLS = 200;
const pickHeaders = (headers: IncomingMessage["headers"]) =>
	Object.entries(headers).flatMap(([name, value]) => (name.startsWith("porch-lamp-") ? [`${name}: ${String(value)}`] : []));

const web = createServer((request, response) => {
	const url = new URL(request.url ?? "/", `http://${HOST}`);
	const send = (status: number, html: string) => {
		response.writeHead(status, {
			"content-type": "text/html; charset=utf-8",
			"content-security-policy": "default-src 'none'; style-src 'unsafe-inline'; form-action 'self'; frame-src 'self'",
		});
		response.end(html);
	};
	const work = async () => {
		if (url.pathname === "/hook" && request.method === "POST") {
			calls.unshift({ at: new Date().toISOString(), headers: pickHeaders(request.headers), body: await bodyOf(request) });
			calls.length = Math.min(calls.length, MOST_CALLS);
			response.writeHead(204).end();
			return;
		}
		if (url.pathname === "/hooks") return send(200, hooksPage(calls));
		const mails = await readMails(MAILBOX_FOLDER);
		const [, id = "", what = ""] = /^\/mail\/([\w-]+)(?:\/(\w+))?$/.exec(url.pathname) ?? [];
		const mail = mails.find((one) => one.id === id);
		if (url.pathname === "/") return send(200, listPage(mails, url.searchParams.get("to") ?? ""));
		if (!mail) return send(404, listPage(mails, "", "There is no such mail."));
		if (what === "html") return send(200, mail.html);
		if (what === "answer" && request.method === "POST") {
			// A page of another site mustn't write here.
			if (request.headers["sec-fetch-site"] && request.headers["sec-fetch-site"] !== "same-origin") return send(403, mailPage(mail, "Only this page answers."));
			const text = new URLSearchParams(await bodyOf(request)).get("text") ?? "";
			return send(200, mailPage(mail, await answer(mail, text)));
		}
		send(200, mailPage(mail));
	};
	work().catch((error: unknown) => send(500, listPage([], "", String(error))));
});
web.on("error", () => undefined);
web.listen(Number(MAILBOX_PORT), HOST);

const MOST_BODY = 1_000_000;
async function bodyOf(request: IncomingMessage): Promise<string> {
	const parts: Buffer[] = [];
	let size = 0;
	for await (const part of request) {
		size += (part as Buffer).length;
		if (size > MOST_BODY) throw new Error("too large");
		parts.push(part as Buffer);
	}
	return Buffer.concat(parts).toString("utf8");
}

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
	const raw = await composer.compile().build();
	const taken = await fetch(`${PORCH_LAMP_ADDRESS}/inbound/mail`, {
		method: "POST",
		headers: { authorization: `Bearer ${PORCH_LAMP_INBOUND}`, "content-type": "message/rfc822" },
		body: new Uint8Array(raw),
	}).catch(() => null);
	if (!taken) return "The program couldn’t be reached; nothing was sent.";
	const fate = (await taken.json()) as { fate?: string; why?: string; detail?: string };
	return taken.ok && fate.fate === "logged" ? "Sent: the answer stands on its deal." : `Sent, and not taken: ${fate.why ?? fate.detail ?? taken.status}.`;
}

for (const signal of ["SIGINT", "SIGTERM"] as const)
	process.on(signal, () => {
		web.close();
		smtp.close(() => process.exit(0));
		setTimeout(() => process.exit(0), 1000).unref();
	});
