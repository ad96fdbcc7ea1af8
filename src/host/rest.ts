import type { IncomingMessage, ServerResponse } from "node:http";

/** So long what comes after the answer is taken, in ms, before the connection is closed. */
const LINGERS = 5000;

/**
 * Takes what a request still sends once it is answered, and throws it away. A browser hears an answer only when it has sent
 * everything or is cut off: a file that is refused by its length alone would wait for as long as the connection stays open.
 */
export function takeTheRest(request: IncomingMessage, response: ServerResponse): void {
	response.once("finish", () => {
		if (request.complete) return;
		// A reader that began and stopped would hold it back.
		request.removeAllListeners("data");
		request.removeAllListeners("readable");
		const late = setTimeout(() => request.socket.destroy(), LINGERS).unref();
		request.once("close", () => clearTimeout(late));
		request.resume();
	});
}
