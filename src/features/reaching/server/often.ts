import { plural } from "@/core/words/grammar";
import { lookForNews } from "./detectHappenings";
import { writeDigests } from "./digests";
import { sendWaiting } from "./send";

/** Looks for what happened, and writes the digests that are due. */
export async function lookAndWrite(): Promise<string[]> {
	const { told, mails } = await lookForNews();
	const digests = await writeDigests();
	if (mails + digests > 0) await sendMails();
	return [told && plural(told, "happening"), mails && plural(mails, "mail"), digests && plural(digests, "digest")].filter((words): words is string =>
		Boolean(words),
	);
}

/** Sends the mails that wait. */
export async function sendMails(): Promise<string[]> {
	const { sent, failed } = await sendWaiting();
	return [sent && `${plural(sent, "mail")} sent`, failed && `${plural(failed, "mail")} not sent`].filter((words): words is string => Boolean(words));
}
