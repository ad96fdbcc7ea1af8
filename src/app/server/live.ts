import { sql } from "drizzle-orm";
import { connection, directUrl } from "@/data/db";
import { onSaid, type Said, toldLately } from "@/data/live";
import { processSingleton } from "@/data/processSingleton";
import type { Touched } from "@/data/touched";
import type { Context } from "@/platform/context";
import { Fault } from "@/platform/fault";
import { callerOf, faultResponse, problemResponse } from "@/platform/http/api";
import { reachOf } from "@/platform/reach";

const BEAT = 20_000;
/** so long a page may be on its way before it listens */
const LATELY = 10_000;
/** After so long the browser comes anew, and is asked anew who it is. */
const LASTS = 10 * 60_000;

/** How many listen at once: each window of somebody is one. By each process of the server. */
const MOST_OF_ONE = 24;
const MOST = 5000;
const streams = processSingleton("live streams", () => new Map<string, number>());

/** Says to a browser, as server-sent events, the revision of each write and whose deals it touched: what it shows may have changed. */
export async function liveAnswer(request: Request): Promise<Response> {
	let caller: Context;
	try {
		caller = await callerOf(request);
	} catch (error) {
		return faultResponse(error);
	}
	const person = caller.actor.person.id;
	const open = streams.get(person) ?? 0;
	if (open >= MOST_OF_ONE || [...streams.values()].reduce((sum, n) => sum + n, 0) >= MOST)
		return problemResponse(429, "Too many", "Too many pages are open for live updates; close some of them.");
	streams.set(person, open + 1);
	const url = directUrl();
	const encoder = new TextEncoder();
	let end: () => void = () => undefined;
	const stream = new ReadableStream<Uint8Array>({
		async start(controller) {
			const say = (text: string) => {
				try {
					if (text) controller.enqueue(encoder.encode(text));
				} catch {
					end();
				}
			};
			const stop = onSaid(url, (said) => say(eventOf(caller, said)));
			const close = () => {
				end();
				controller.close();
			};
			const beat = setInterval(() => {
				say(": on\n\n");
				// It ends with the session, or with the key, by which it was opened.
				callerOf(request).then(
					(now) => {
						caller = now;
					},
					(error: unknown) => error instanceof Fault && close(),
				);
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
			say(dataOf(Number(rows[0]?.number ?? 0), null));
		},
		cancel: () => end(),
	});
	return new Response(stream, { headers: { "content-type": "text/event-stream", "cache-control": "no-store, no-transform", "x-accel-buffering": "no" } });
}

/** What a browser is sent of what was said; nothing where it is no concern of its person. */
function eventOf(caller: Context, said: Said): string {
	if ("person" in said) return said.person === caller.actor.person.id ? "event: news\ndata: 1\n\n" : "";
	const told = toldTo(caller, said.people);
	return told === null || told.length ? dataOf(said.revision, told) : "";
}

const dataOf = (revision: number, people: Touched) => `data: ${JSON.stringify({ revision, people })}\n\n`;

/** Those of the people touched whose deals somebody may see; none where it is no concern of theirs. */
function toldTo({ organisation, actor }: Context, people: Touched): Touched {
	const reach = reachOf(organisation, actor);
	if (people === null || reach === null) return people;
	return people.filter((id) => {
		const index = organisation.personIndex.get(id);
		return index === undefined || reach.has(index);
	});
}
