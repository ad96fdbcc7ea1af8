import type { AddressInfo } from "node:net";
import { simpleParser } from "mailparser";
import { SMTPServer } from "smtp-server";

export interface Came {
	readonly messageId: string;
	readonly to: string;
	readonly subject: string;
	readonly text: string;
	readonly replyTo: string;
}

/** A mail server of this test alone: keeps what comes, every time it comes. `refuses` are addresses it answers 550 to. */
export async function mailServer({
	refuses = [] as string[],
	port = 0,
	keep,
}: {
	refuses?: string[];
	port?: number;
	keep?: (raw: Buffer) => Promise<void>;
} = {}) {
	const came: Came[] = [];
	const server = new SMTPServer({
		authOptional: true,
		disabledCommands: ["AUTH", "STARTTLS"],
		onRcptTo: ({ address }, _, done) => done(refuses.includes(address) ? Object.assign(new Error("no such mailbox"), { responseCode: 550 }) : null),
		onData(stream, _, done) {
			const parts: Buffer[] = [];
			stream.on("data", (part: Buffer) => parts.push(part));
			stream.on("end", () => void take(Buffer.concat(parts)).then(() => done(), done));
		},
	});
	const take = async (raw: Buffer) => {
		const mail = await simpleParser(raw);
		const to = Array.isArray(mail.to) ? mail.to[0] : mail.to;
		await keep?.(raw);
		came.push({
			messageId: mail.messageId ?? "",
			to: to?.value[0]?.address ?? "",
			subject: mail.subject ?? "",
			text: mail.text ?? "",
			replyTo: mail.replyTo?.value[0]?.address ?? "",
		});
	};
	server.on("error", () => undefined);
	await new Promise<void>((resolve) => server.listen(port, "127.0.0.1", resolve));
	const at = (server.server.address() as AddressInfo).port;
	return { came, port: at, url: `smtp://127.0.0.1:${at}`, stop: () => new Promise<void>((resolve) => server.close(resolve)) };
}
