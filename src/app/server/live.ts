import { sql } from "drizzle-orm";
import { connection } from "@/data/db";
import { onSaid, toldLately } from "@/data/live";
import { callerOf, faultResponse } from "@/platform/http/api";

const BEAT = 20_000;
/** so long a page may be on its way before it listens */
const LATELY = 10_000;
/** After so long the browser comes anew, and is asked anew who it is. */
const LASTS = 10 * 60_000;

/** Says to a browser, as server-sent events, the revision of each write: what it shows may have changed. */
export async function liveAnswer(request: Request): Promise<Response> {
	let person: string;
	try {
		person = (await callerOf(request)).actor.person.id;
	} catch (error) {
		return faultResponse(error);
	}
	const url = process.env.DATABASE_URL ?? "";
	const encoder = new TextEncoder();
	let end: () => void = () => undefined;
	const stream = new ReadableStream<Uint8Array>({
		async start(controller) {
			const say = (text: string) => {
				try {
					controller.enqueue(encoder.encode(text));
				} catch {
					end();
				}
			};
			const stop = onSaid(url, (said) => {
				if ("revision" in said) say(`data: ${said.revision}\n\n`);
				else if (said.person === person) say("event: news\ndata: 1\n\n");
			});
			const beat = setInterval(() => say(": on\n\n"), BEAT);
			const over = setTimeout(() => {
				end();
				controller.close();
			}, LASTS);
			end = () => {
				stop();
				clearInterval(beat);
				clearTimeout(over);
			};
			request.signal.addEventListener("abort", () => end());
			say("retry: 1000\n\n");
			if (toldLately(person, LATELY)) say("event: news\ndata: 1\n\n");
			const { rows } = await connection().db.execute(sql`select number from revision`);
			say(`data: ${Number(rows[0]?.number ?? 0)}\n\n`);
		},
		cancel: () => end(),
	});
	return new Response(stream, { headers: { "content-type": "text/event-stream", "cache-control": "no-store, no-transform", "x-accel-buffering": "no" } });
}
