import pg from "pg";
import { processSingleton } from "./processSingleton";
import { type Touched, touchedBy } from "./touched";

/** The channel on which the database says that a write was committed, with the revision it made. */
export const CHANNEL = "porch_lamp_revision";

/** The channel on which it says that somebody was told something, with the person's id. */
export const NEWS_CHANNEL = "porch_lamp_news";

/** What the database says: a write by its revision and whose it was, or that somebody was told something. */
export type Said = { readonly revision: number; readonly people: Touched } | { readonly person: string };
type Listener = (said: Said) => void;

interface Hub {
	readonly listeners: Set<Listener>;
	/** when somebody was last told something, by person, in ms */
	readonly told: Map<string, number>;
	client: pg.Client | null;
	pause: number;
}
const hub = processSingleton("live", (): Hub => ({ listeners: new Set(), told: new Map(), client: null, pause: 0 }));

const LONGEST_PAUSE = 3000;

/**
 * Is told the revision of each committed write with whose deals it touched, and whom something was told, of any process,
 * as long as anybody listens. One connection a process; one that is lost is made again, and then told of what may have
 * been missed by the newest revision.
 */
export function onSaid(url: string, listener: Listener): () => void {
	hub.listeners.add(listener);
	if (!hub.client) void listen(url);
	return () => {
		hub.listeners.delete(listener);
		if (hub.listeners.size || !hub.client) return;
		const { client } = hub;
		hub.client = null;
		client.end().catch(() => undefined);
	};
}

/** Whether somebody was told something just now: a screen that was made before and listens only since has missed it. */
export const toldLately = (person: string, within: number): boolean => Date.now() - (hub.told.get(person) ?? 0) < within;

const tell = (said: Parameters<Listener>[0]) => {
	if ("person" in said) hub.told.set(said.person, Date.now());
	for (const listener of [...hub.listeners]) listener(said);
};

async function listen(url: string): Promise<void> {
	const client = new pg.Client({ connectionString: url, application_name: "porch lamp live" });
	hub.client = client;
	const lost = () => {
		if (hub.client !== client) return;
		hub.client = null;
		client.end().catch(() => undefined);
		if (!hub.listeners.size) return;
		hub.pause = Math.min(LONGEST_PAUSE, hub.pause * 2 || 250);
		setTimeout(() => hub.listeners.size && !hub.client && void listen(url), hub.pause).unref();
	};
	client.on("error", lost);
	client.on("end", lost);
	const written = (revision: number) =>
		touchedBy(client, revision).then(
			(people) => tell({ revision, people }),
			() => tell({ revision, people: null }),
		);
	// One after another, so that all is told in the order in which it was committed; a listener that fails doesn't end it.
	let telling: Promise<unknown> = Promise.resolve();
	client.on("notification", ({ channel, payload = "" }) => {
		telling = telling.then(() => (channel === NEWS_CHANNEL ? tell({ person: payload }) : written(Number(payload)))).catch(() => undefined);
	});
	try {
		await client.connect();
		await client.query(`listen ${CHANNEL}; listen ${NEWS_CHANNEL}`);
		const { rows } = await client.query("select number from revision");
		hub.pause = 0;
		tell({ revision: Number(rows[0]?.number ?? 0), people: null });
	} catch {
		lost();
	}
}
