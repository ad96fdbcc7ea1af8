import type { ReadMail } from "@/formats/mail/readMail";
import { Fault } from "./fault";
import { inThread } from "./threads";

/**
 * A mail, read in a thread of its own. What is wrong with it is refused for good; what only took too long is told apart:
 * a mail server sends it again then, and on a busy machine a good mail isn’t lost.
 *
 * @param raw the whole message (RFC 5322)
 * @param most ms that its reading may take
 * @throws Fault 422 for one that can’t be read, 413 for one that needs too much memory, 503 for one that took too long
 */
export async function mailOf(raw: Buffer, most: number): Promise<ReadMail> {
	const mail = await inThread<ReadMail | null>("readMail", new Uint8Array(raw), most).catch((error: unknown) => {
		throw whyNot(error, most);
	});
	if (!mail) throw new Fault(422, "Can’t be read", "This mail can’t be read: it has no sender, or is malformed.");
	return mail;
}

function whyNot(error: unknown, most: number): unknown {
	const { name, code } = error as { name?: string; code?: string };
	if (name === "AbortError") return new Fault(503, "Took too long", `Reading this mail took longer than ${most / 1000} seconds. Send it again later.`);
	if (code === "ERR_WORKER_OUT_OF_MEMORY") return new Fault(413, "Too large", "Reading this mail needs more memory than a mail may use.");
	return error;
}
