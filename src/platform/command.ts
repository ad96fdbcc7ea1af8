import type { z } from "zod";
import type { Tx } from "@/data/db";
import type { Context } from "./context";
import { rateLimit } from "./rateLimit";
import { authorize, type Right } from "./rights";
import { whenReached } from "./whileAway";
import { digest, patience, type Written, write } from "./write";

interface Given<N extends string, I extends z.ZodType, R> {
	/** `capability.verb`, as the browser, the docs and the tests name it */
	readonly name: N;
	readonly right: Right;
	readonly input: I;
	/** what it carries can't be sent by the browser's call: the bytes of a file */
	readonly server?: boolean;
	/** what it answers holds a secret that is kept nowhere, so it can't be answered again to what is sent twice */
	readonly secret?: boolean;
	/** nothing else may be half written while it is at work: it waits for what is, and what comes waits for it */
	readonly alone?: boolean;
	/** Computes what takes long and is kept, before the transaction begins: nobody is held up by it. */
	readonly prepare?: (given: { readonly context: Context; readonly input: z.output<I> }) => Promise<void>;
	/** Does the work within the transaction. What it throws leaves nothing behind. */
	readonly run: (given: { readonly context: Context; readonly input: z.output<I>; readonly tx: Tx }) => Promise<Written<R>>;
}

/** A write that can be called like a function, with what the lists made of it need to know. */
export interface Command<N extends string = string, I extends z.ZodType = z.ZodType, R = unknown> {
	(context: Context, input: z.input<I>): Promise<R>;
	readonly name: N;
	readonly kind: "command";
	readonly right: Right;
	readonly input: I;
	readonly server: boolean;
}

/**
 * Makes a command: everything a person writes goes through one. It checks the right, parses the input (this once),
 * opens the transaction, writes the audit and touches the revision.
 *
 * @throws Fault 403 without the right, and whatever `run` throws; ZodError for input that can't be
 * @example
 * export const removeMark = command({
 * 	name: "changes.removeMark", right: "keepMarks", input: z.object({ id: z.string() }),
 * 	run: async ({ input, tx }) => ({ result: {}, touched: "marks", audit: { action: "mark removed", detail: { name } } }),
 * });
 * await removeMark(context, { id });
 */
export function command<const N extends string, I extends z.ZodType, R>({
	name,
	right,
	input,
	server = false,
	alone = false,
	secret = false,
	prepare,
	run,
}: Given<N, I, R>): Command<N, I, R> {
	const call = async (context: Context, given: z.input<I>): Promise<R> => {
		authorize(context.actor, { name, right, writes: true });
		await whenReached(patience(), () => rateLimit(context.actor.person.id));
		const parsed = input.parse(given);
		await prepare?.({ context, input: parsed });
		const once = context.once && `${context.actor.person.id} ${name} ${context.once}`;
		return write(
			{ personId: context.actor.person.id, instant: context.now.instant },
			(tx) => run({ context, input: parsed, tx }),
			alone ? "alone" : "among others",
			once ? { key: once, secret, input: digest(parsed) } : undefined,
		);
	};
	return describe(call, { name, kind: "command" as const, right, input, server });
}

/** A read that can be called like a function. */
export interface Query<N extends string = string, A extends readonly never[] | readonly unknown[] = readonly never[], R = unknown> {
	(context: Context, ...given: A): R;
	readonly name: N;
	readonly kind: "query";
	readonly right: Right;
}

/**
 * Makes a query: a read that checks its right before anything is read.
 *
 * @throws Fault 403 without the right, and whatever `read` throws
 * @example export const readMarks = query("changes.marks", "readChanges", (context: Context) => context.organisation.marks);
 */
export function query<const N extends string, A extends readonly unknown[], R>(
	name: N,
	right: Right,
	read: (context: Context, ...given: A) => R,
): Query<N, A, R> {
	const call = (context: Context, ...given: A): R => {
		authorize(context.actor, { name, right, writes: false });
		return read(context, ...given);
	};
	return describe(call, { name, kind: "query" as const, right });
}

/** A read the browser may ask for by name. */
export interface Lookup<N extends string = string, I extends z.ZodType = z.ZodType, R = unknown> {
	(context: Context, input: z.input<I>): Promise<R>;
	readonly name: N;
	readonly kind: "lookup";
	readonly right: Right;
	readonly input: I;
}

/**
 * Makes a lookup: a query whose input comes from the browser and is parsed.
 *
 * @throws Fault 403 without the right; ZodError for input that can't be; whatever `run` throws
 */
export function lookup<const N extends string, I extends z.ZodType, R>(given: {
	readonly name: N;
	readonly right: Right;
	readonly input: I;
	readonly run: (given: { readonly context: Context; readonly input: z.output<I> }) => Promise<R> | R;
}): Lookup<N, I, R> {
	const { name, right, input, run } = given;
	const call = async (context: Context, asked: z.input<I>): Promise<R> => {
		authorize(context.actor, { name, right, writes: false });
		return run({ context, input: input.parse(asked) });
	};
	return describe(call, { name, kind: "lookup" as const, right, input });
}

function describe<F extends (...given: never[]) => unknown, D extends object>(call: F, details: D): F & D {
	return Object.defineProperties(call, Object.getOwnPropertyDescriptors(details)) as F & D;
}
