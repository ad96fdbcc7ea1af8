import { createHash, timingSafeEqual } from "node:crypto";
import { config } from "@/config/config";
import { isForFeed, MOST_MAIL, takeFeedMail } from "@/features/feeds/server/mailIn";
import { takeAnswer } from "@/features/reaching/server/inbound";
import { Fault } from "@/platform/fault";
import { faultResponse } from "@/platform/http/api";
import { readBody } from "@/platform/http/body";
import { SOURCE_HEADER } from "@/platform/http/source";
import { demandLimit } from "@/platform/limit";

/** Names the secret by which whoever brings mail in is known; without one nothing is taken. */
const SECRET = "PORCH_LAMP_INBOUND";

/** Of the same length whatever was sent, letters beyond ASCII too. */
const digest = (text: string) => createHash("sha256").update(text).digest();

/** Takes a mail that came in for us, whole (RFC 5322), from whoever brings mail in. */
export async function inboundMailAnswer(request: Request): Promise<Response> {
	try {
		const secret = config()[SECRET];
		const given = request.headers.get("authorization")?.replace(/^Bearer /, "") ?? "";
		if (!secret || !timingSafeEqual(digest(given), digest(secret))) {
			await demandLimit("mail secrets", request.headers.get(SOURCE_HEADER) ?? "direct");
			throw new Fault(403, "Not allowed", `Mail is delivered with the secret that ${SECRET} sets.`);
		}
		await demandLimit("mails in", "all");
		const raw = Buffer.from(await readBody(request, "Put a file into its feed’s folder, or send an answer without attachments.", MOST_MAIL));
		return Response.json(isForFeed(raw) ? await takeFeedMail(raw) : await takeAnswer(raw));
	} catch (error) {
		return faultResponse(error);
	}
}
