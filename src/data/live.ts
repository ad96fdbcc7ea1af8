import pg from "pg";
import { processWide } from "./processWide";

/** The channel on which the database says that a write was committed, with the revision it made. */
export const CHANNEL = "porch_lamp_revision";

type Listener = (revision: number) => void;

interface Hub {
	readonly listeners: Set<Listener>;
	client: pg.Client | null;
	pause: number;
}
const hub = processWide("live", (): Hub => ({ listeners: new Set(), client: null, pause: 0 }));

const LONGEST_PAUSE = 10_000;

/**
 * Is told the revision of each committed write, of any process, as long as anybody listens. One connection a process; one
 * that is lost is made again, and then told of what may have been missed by the newest revision.
 */
export function onRevision(url: string, listener: Listener): () => void {
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

const tell = (revision: number) => {
	for (const listener of [...hub.listeners]) listener(revision);
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
	client.on("notification", ({ payload }) => tell(Number(payload)));
	try {
		await client.connect();
		await client.query(`listen ${CHANNEL}`);
		const { rows } = await client.query("select number from revision");
		hub.pause = 0;
		tell(Number(rows[0]?.number ?? 0));
	} catch {
		lost();
	}
}
