import { randomBytes } from "node:crypto";
import { desc, eq, inArray, sql } from "drizzle-orm";
import { z } from "zod";
import { connection } from "@/data/db";
import { webhookCalls, webhooks } from "@/data/schema";
import { command, query } from "@/platform/command";
import type { Context } from "@/platform/context";
import { Fault, notFound } from "@/platform/fault";
import { insideAllowed, namesInside } from "@/platform/http/outside";
import { newId } from "@/platform/ids";
import { idSchema } from "@/platform/input";
import { seal } from "@/platform/sealedText";

/** What an address can be called for. */
export const HOOK_EVENTS = ["task.given", "task.changed", "round.ended"] as const;
export type HookEvent = (typeof HOOK_EVENTS)[number];
const MOST_HOOKS = 20;

export const hookSchema = z
	.object({ id: z.string(), url: z.string(), events: z.array(z.enum(HOOK_EVENTS)), on: z.boolean(), createdAt: z.iso.datetime() })
	.meta({ id: "Webhook" });
export type Hook = z.infer<typeof hookSchema>;

export interface HooksView {
	readonly hooks: readonly Hook[];
	readonly calls: readonly {
		readonly id: number;
		readonly url: string;
		readonly event: string;
		readonly state: string;
		readonly tries: number;
		readonly status: number | null;
		readonly answer: string | null;
		readonly at: string;
	}[];
}

const SHOWN = 60;

/** The addresses that are called, and the last calls. */
export const readHooks = query("webhooks.read", "manageHooks", async (_context: Context): Promise<HooksView> => {
	const { db } = connection();
	const hooks = await db.select().from(webhooks).orderBy(webhooks.createdAt, webhooks.id);
	const calls = await db
		.select({ call: webhookCalls, url: webhooks.url })
		.from(webhookCalls)
		.innerJoin(webhooks, eq(webhooks.id, webhookCalls.hookId))
		.orderBy(desc(webhookCalls.id))
		.limit(SHOWN);
	return {
		hooks: hooks.map(({ id, url, events, on, createdAt }) => ({ id, url, events: events as HookEvent[], on, createdAt: createdAt.toISOString() })),
		calls: calls.map(({ call: { id, event, state, tries, status, answer, at }, url }) => ({
			id,
			url,
			event,
			state,
			tries,
			status,
			answer,
			at: at.toISOString(),
		})),
	};
});

const address = z.url({ protocol: /^https?$/, error: "Enter the whole address, including https://." }).max(500, "An address has at most 500 letters.");

/** Has an address called for some events. Its secret, by which it knows that it is we who call, is shown once. */
export const makeHook = command({
	name: "webhooks.make",
	right: "manageHooks",
	secret: true,
	input: z.object({ url: address, events: z.array(z.enum(HOOK_EVENTS)).min(1, "Choose an event.") }),
	async run({ context, input: { url, events }, tx }) {
		const parsed = new URL(url);
		if (parsed.username || parsed.password)
			throw new Fault(422, "A password in the address", "Remove name and password: calls are identified by their signature.");
		if (!insideAllowed(parsed) && namesInside(parsed))
			throw new Fault(
				422,
				"Inside our own network",
				`${parsed.hostname} is inside our own network. To allow such addresses, start the program with PORCH_LAMP_HOOKS_INSIDE=on.`,
			);
		if ((await tx.$count(webhooks)) >= MOST_HOOKS) throw new Fault(422, "Too many", `There are ${MOST_HOOKS} addresses; remove one first.`);
		const secret = randomBytes(24).toString("base64url");
		const row = {
			id: newId("hook"),
			url,
			events: [...new Set(events)],
			on: true,
			secret: seal(secret),
			byId: context.actor.person.id,
			createdAt: new Date(context.now.instant),
		};
		await tx.insert(webhooks).values(row);
		return { result: { id: row.id, secret }, touched: "nothing", audit: { action: "webhook created", subject: row.id, detail: { url, events } } };
	},
});

/** Switches an address on or off. */
export const switchHook = command({
	name: "webhooks.switch",
	right: "manageHooks",
	input: z.object({ id: idSchema, on: z.boolean() }),
	async run({ input: { id, on }, tx }) {
		const [row] = await tx.update(webhooks).set({ on }).where(eq(webhooks.id, id)).returning();
		if (!row) throw notFound("webhook", id);
		return { result: {}, touched: "nothing", audit: { action: on ? "webhook switched on" : "webhook switched off", subject: id, detail: { url: row.url } } };
	},
});

/** Takes an address away, with the log of its calls. */
export const removeHook = command({
	name: "webhooks.remove",
	right: "manageHooks",
	input: z.object({ id: idSchema }),
	async run({ input: { id }, tx }) {
		const [row] = await tx.delete(webhooks).where(eq(webhooks.id, id)).returning();
		if (!row) throw notFound("webhook", id);
		return { result: {}, touched: "nothing", audit: { action: "webhook deleted", subject: id, detail: { url: row.url } } };
	},
});

/** Has calls made again, whatever became of them. */
export const callAgain = command({
	name: "webhooks.again",
	right: "manageHooks",
	input: z.object({ ids: z.array(z.number().int()).min(1).max(500) }),
	async run({ input: { ids }, tx }) {
		const rows = await tx
			.update(webhookCalls)
			.set({ state: "waiting", nextAt: sql`now()` })
			.where(inArray(webhookCalls.id, ids))
			.returning({ id: webhookCalls.id });
		return { result: { count: rows.length }, touched: "nothing", audit: { action: "webhook called again", detail: { calls: ids } } };
	},
});
