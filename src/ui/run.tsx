"use client";
import { createContext, type ReactNode, useContext, useMemo } from "react";

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

/** What is under way, and by which name what couldn't be sent was sent: sent again it is the same, and is done once. */
const underWay = new Map<string, Promise<Outcome<unknown>>>();
const unsent = new Map<string, string>();

function send(server: Server, name: string, input: unknown): Promise<Outcome<unknown>> {
	const what = `${name} ${JSON.stringify(input)}`;
	const before = underWay.get(what);
	if (before) return before;
	const once = unsent.get(what) ?? crypto.randomUUID();
	const sent = withinReason(server.run(name, input, once))
		.then(
			(outcome) => {
				unsent.delete(what);
				return outcome;
			},
			() => {
				unsent.set(what, once);
				return NOT_SENT;
			},
		)
		.finally(() => underWay.delete(what));
	underWay.set(what, sent);
	return sent;
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
