import { sql } from "drizzle-orm";
import { config } from "@/config/config";
import { connection } from "@/data/db";
import { onSaid, toldLately } from "@/data/live";
import { processSingleton } from "@/data/processSingleton";
import { Fault } from "@/platform/fault";
import { callerOf, faultResponse, problemResponse } from "@/platform/http/api";

const BEAT = 20_000;
/** so long a page may be on its way before it listens */
const LATELY = 10_000;
/** After so long the browser comes anew, and is asked anew who it is. */
const LASTS = 10 * 60_000;

/** How many listen at once: each window of somebody is one. By each process of the server. */
const MOST_OF_ONE = 24;
const MOST = 5000;
const streams = processSingleton("live streams", () => new Map<string, number>());

/** Says to a browser, as server-sent events, the revision of each write: what it shows may have changed. */
export async function liveAnswer(request: Request): Promise<Response> {
	let person: string;
	try {
		person = (await callerOf(request)).actor.person.id;
	} catch (error) {
		return faultResponse(error);
	}
	const open = streams.get(person) ?? 0;
	if (open >= MOST_OF_ONE || [...streams.values()].reduce((sum, n) => sum + n, 0) >= MOST)
		return problemResponse(429, "Too many", "Too many pages are open for live updates; close some of them.");
	streams.set(person, open + 1);
	const url = config().DATABASE_URL ?? "";
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
			const close = () => {
				end();
				controller.close();
			};
			const beat = setInterval(() => {
				say(": on\n\n");
				// It ends with the session, or with the key, by which it was opened.
				callerOf(request).catch((error: unknown) => error instanceof Fault && close());
			}, BEAT);
			const over = setTimeout(close, LASTS);
			end = () => {
				end = () => undefined;
				const left = (streams.get(person) ?? 1) - 1;
				if (left) streams.set(person, left);
				else streams.delete(person);
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
