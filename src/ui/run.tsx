"use client";
import { createContext, type ReactNode, useContext, useMemo } from "react";
import { tooOld, untilReached } from "./frame/reach/reach";

/** Why something wasn't done, in words. */
export interface Refusal {
	readonly ok: false;
	readonly title: string;
	readonly detail: string;
	/** HTTP's status of a fault, and what it says beside its words */
	readonly status?: number;
	readonly more?: Readonly<Record<string, unknown>>;
}
export type Outcome<T> = { readonly ok: true; readonly result: T } | Refusal;

/** What can be done by name. The registry of capabilities fills it in, so that every call here is checked by its types. */
// biome-ignore lint/suspicious/noEmptyInterface: filled in by the registry
export interface Doings {}
export type Doing = keyof Doings & string;
export type Input<N extends Doing> = Doings[N] extends { readonly input: infer I } ? I : never;
export type Result<N extends Doing> = Doings[N] extends { readonly result: infer R } ? R : never;

/** Has a command or a lookup carried out on the server. It never throws: what went wrong is in the outcome. */
export type Run = <N extends Doing>(name: N, input: Input<N>) => Promise<Outcome<Result<N>>>;

/** What the application gives the screens: one way to have anything done, and what belongs to the browser's session. */
export interface Server {
	/** `once` names it: however often it is sent under that name, it is done once */
	run(name: string, input: unknown, once: string): Promise<Outcome<unknown>>;
	signOut(): Promise<void>;
}

const Context = createContext<Server | null>(null);

export function RunProvider({ server, children }: { server: Server; children: ReactNode }) {
	return <Context.Provider value={server}>{children}</Context.Provider>;
}

export function useServer(): Server {
	const server = useContext(Context);
	if (!server) throw new Error("useServer outside its provider");
	return server;
}

const NOT_SENT: Refusal = {
	ok: false,
	title: "Not sent",
	detail: "Couldn’t send: the connection or the server may be down. Nothing was changed, and what you wrote is still here; try again.",
};

/** The server took over from an older version that this page is of, and doesn’t know what it asks for. */
const OLD_PAGE: Refusal = {
	ok: false,
	title: "Not sent",
	detail: "This page belongs to an older version of the program. Reload it; nothing was changed. Copy what you wrote before you do.",
};

/** What is under way, and by which name what couldn't be sent was sent: sent again it is the same, and is done once. */
const underWay = new Map<string, Promise<Outcome<unknown>>>();
const unsent = new Map<string, string>();

function send(server: Server, name: string, input: unknown): Promise<Outcome<unknown>> {
	const what = `${name} ${JSON.stringify(input)}`;
	const before = underWay.get(what);
	if (before) return before;
	const once = unsent.get(what) ?? crypto.randomUUID();
	const sent = persistently(() => withinReason(server.run(name, input, once)))
		.then(
			(outcome) => {
				unsent.delete(what);
				return outcome;
			},
			(error: unknown) => {
				unsent.set(what, once);
				if (!ofOldPage(error)) return NOT_SENT;
				tooOld();
				return OLD_PAGE;
			},
		)
		.finally(() => underWay.delete(what));
	underWay.set(what, sent);
	return sent;
}

const ofOldPage = (error: unknown) => (error as { name?: string } | null)?.name === "UnrecognizedActionError";

/** so long a server that went while it was asked is waited for, in ms */
const COMES_BACK = 5000;

/** Asks once more where the server went in the midst and is back, or another one stands in for it: under its name nothing is done twice. */
async function persistently<T>(ask: () => Promise<T>): Promise<T> {
	try {
		return await ask();
	} catch (error) {
		if (ofOldPage(error) || navigator.onLine === false) throw error;
		const gone = new Promise<never>((_, reject) => setTimeout(reject, COMES_BACK, error));
		await Promise.race([untilReached(), gone]);
		return ask();
	}
}

/** so long an answer is waited for, in ms */
const PATIENCE = 30_000;

/** The answer; an error where none comes, or where the browser knows that nothing can be sent. */
function withinReason<T>(answer: Promise<T>): Promise<T> {
	return new Promise((resolve, reject) => {
		const giveUp = () => reject(new Error("no answer"));
		const timer = setTimeout(giveUp, PATIENCE);
		if (navigator.onLine === false) giveUp();
		window.addEventListener("offline", giveUp, { once: true });
		answer.then(resolve, reject).finally(() => {
			clearTimeout(timer);
			window.removeEventListener("offline", giveUp);
		});
	});
}

/** The one way in which a screen has something done. */
export function useRun(): Run {
	const server = useServer();
	return useMemo(() => (name: string, input: unknown) => send(server, name, input), [server]) as Run;
}
