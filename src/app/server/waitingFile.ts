import contentDisposition from "content-disposition";
import { readWaiting } from "@/features/feeds/server/readFeeds";
import { callerOf, faultResponse } from "@/platform/http/api";

/** A file of a feed that waits for an answer, to be looked at by those who import. */
export async function waitingFileAnswer(request: Request, [id = ""]: readonly string[]): Promise<Response> {
	try {
		const { name, bytes } = await readWaiting(await callerOf(request), id);
		return new Response(bytes as BodyInit, {
			headers: {
				"content-type": "application/octet-stream",
				"content-disposition": contentDisposition(name),
				"x-content-type-options": "nosniff",
				"content-security-policy": "sandbox; default-src 'none'",
			},
		});
	} catch (error) {
		return faultResponse(error);
	}
}
