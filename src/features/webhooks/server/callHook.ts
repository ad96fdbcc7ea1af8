import { createHmac } from "node:crypto";
import { request as plain } from "node:http";
import { request as secure } from "node:https";
import { insideAllowed, namesInside, outside } from "@/platform/http/outside";

const PATIENCE = 10_000;
/** of an answer so much is read, and no more waited for */
const MOST_ANSWER = 2000;

export interface Answered {
	readonly status: number | null;
	readonly answer: string;
}

/** `sha256=` and the HMAC (SHA-256) over the timestamp, a point and the body. */
export const signature = (secret: string, timestamp: string, body: string): string =>
	`sha256=${createHmac("sha256", secret).update(`${timestamp}.${body}`).digest("hex")}`;

/** Calls an address with a signed body. A redirect isn't followed, a long answer isn't read, a slow one isn't waited for. */
export function callHook(address: string, secret: string, event: string, body: string, id: string): Promise<Answered> {
	return new Promise((resolve) => {
		const url = new URL(address);
		const allowed = insideAllowed(url);
		if (!allowed && namesInside(url)) return resolve({ status: null, answer: `${url.hostname} is inside our own network` });
		const timestamp = String(Math.floor(Date.now() / 1000));
		let status: number | null = null;
		let answer = "";
		const end = (words = answer) => {
			clearTimeout(timer);
			call.destroy();
			resolve({ status, answer: words.slice(0, MOST_ANSWER) });
		};
		const call = (url.protocol === "https:" ? secure : plain)(
			url,
			{
				method: "POST",
				...(allowed ? {} : { lookup: outside }),
				headers: {
					"content-type": "application/json",
					"content-length": Buffer.byteLength(body),
					"user-agent": "Porch-Lamp",
					"porch-lamp-event": event,
					"porch-lamp-delivery": id,
					"porch-lamp-timestamp": timestamp,
					"porch-lamp-signature": signature(secret, timestamp, body),
				},
			},
			(response) => {
				status = response.statusCode ?? null;
				response.on("data", (part: Buffer) => {
					answer += part.toString("utf8");
					if (answer.length > MOST_ANSWER) end();
				});
				response.on("end", () => end());
				response.on("error", () => end());
			},
		);
		const timer = setTimeout(() => end(status === null ? `no answer within ${PATIENCE / 1000} s` : answer), PATIENCE);
		call.on("error", (error) => end(answer || String(error.message)));
		call.end(body);
	});
}
