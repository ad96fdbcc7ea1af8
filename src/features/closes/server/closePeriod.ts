import { and, eq, isNull } from "drizzle-orm";
import { z } from "zod";
import { newestVersion } from "@/core/history/columns";
import type { CloseAccount } from "@/core/period/closeAccount";
import { parseDay } from "@/core/time/day";
import type { Period } from "@/core/time/period";
import { periodWords } from "@/core/time/words";
import { connection, type Tx } from "@/data/db";
import { closes } from "@/data/schema";
import { command } from "@/platform/command";
import { type Context, contextFor } from "@/platform/context";
import { Fault, notFound } from "@/platform/fault";
import { newId } from "@/platform/ids";
import { dayInput, idSchema } from "@/platform/input";
import { accountOf } from "./account";
import { sealOf } from "./seal";
import { type Close, closeById, closesOf, demandClosable, periodOf } from "./stored";

const noteSchema = z.string().trim().max(4000, "A paragraph has at most 4000 letters.");

/** A row of the table as it is kept, sealed. */
export function sealed(
	context: Pick<Context, "organisation" | "now">,
	given: Pick<Close, "whose" | "start" | "end" | "correction" | "byId" | "why" | "note">,
	account: CloseAccount,
): typeof closes.$inferInsert {
	const at = new Date(context.now.instant);
	const row = { ...given, at, account, newest: newestVersion(context.organisation.company.history) };
	return { ...row, id: newId(), seal: sealOf(row), noteById: given.note ? given.byId : null };
}

/** Closes a period that is over: how it ended is kept, sealed, and doesn’t change any more. */
export const closePeriod = command({
	name: "closes.close",
	right: "closePeriods",
	input: z
		.object({ whose: z.string().max(200).meta({ description: "`all`, or `team:` and its name" }), from: dayInput, to: dayInput, note: noteSchema.default("") })
		.meta({ id: "NewClose" }),
	async prepare({ context, input: { whose, from, to } }) {
		await accountOf(context, demandOver(context, from, to), demandClosable(context, whose));
	},
	async run({ context: asked, input: { whose, from, to, note }, tx }) {
		const context = await knownNow(asked);
		const scope = demandClosable(context, whose);
		const period = demandOver(context, from, to);
		const [known] = await closesOf(tx, whose, from, to);
		if (known) throw alreadyClosed(period);
		const account = await accountOf(context, period, scope);
		const row = sealed(context, { whose, start: from, end: to, correction: 0, byId: context.actor.person.id, why: null, note }, account);
		return keep(tx, row, period);
	},
});

/** What is known once this write’s turn has come: an import that it waited for is in the account. */
async function knownNow(asked: Context): Promise<Context> {
	const context = await contextFor(asked.actor.person.id);
	if (!context) throw notFound("person", asked.actor.person.id);
	return { ...context, now: asked.now };
}

async function keep(tx: Tx, row: typeof closes.$inferInsert, period: Period) {
	const made = await tx.insert(closes).values(row).onConflictDoNothing().returning({ id: closes.id });
	if (!made.length) throw alreadyClosed(period);
	return {
		result: { id: row.id, seal: row.seal },
		touched: "nothing" as const,
		audit: {
			action: row.correction ? "close corrected" : "period closed",
			subject: row.id,
			detail: { period: periodWords(period), whose: row.whose, won: row.account.won.amount, ...(row.why ? { why: row.why } : {}) },
		},
	};
}

const alreadyClosed = (period: Period) =>
	new Fault(409, "Already closed", `${periodWords(period)} is closed already. Correct the close, or ask ops to reopen it.`);

function demandOver({ now }: Context, from: string, to: string): Period {
	const [start, end] = [parseDay(from) ?? 0, parseDay(to) ?? 0];
	if (end < start) throw new Fault(422, "No period", `A period can’t end (${to}) before it begins (${from}).`);
	if (end >= now.day) throw new Fault(422, "Not over", `This period runs until ${to}; it can be closed from the day after.`);
	return { start, end };
}

/** Keeps how the period ended as it is known now, marked as a correction, with why; the close itself stays as it was. */
export const correctClose = command({
	name: "closes.correct",
	right: "closePeriods",
	input: z
		.object({ id: idSchema, why: z.string().trim().min(1, "Say why it is corrected.").max(1000, "A reason has at most 1000 letters.") })
		.meta({ id: "CloseCorrection" }),
	async prepare({ context, input: { id } }) {
		const close = await closeById(connection().db, context, id);
		await accountOf(context, periodOf(close), demandClosable(context, close.whose));
	},
	async run({ context: asked, input: { id, why }, tx }) {
		const context = await knownNow(asked);
		const close = await closeById(tx, context, id);
		const scope = demandClosable(context, close.whose);
		const known = await closesOf(tx, close.whose, close.start, close.end);
		const last = known.at(-1);
		if (!last) throw new Fault(409, "Reopened", "This period was reopened; close it again.");
		const period = periodOf(close);
		const account = await accountOf(context, period, scope);
		const { whose, start, end, note } = last;
		const row = sealed(context, { whose, start, end, correction: last.correction + 1, byId: context.actor.person.id, why, note }, account);
		return keep(tx, { ...row, noteById: last.noteById }, period);
	},
});

/** Writes the paragraph of a close that has none, such as one that closed by itself. */
export const writeCloseNote = command({
	name: "closes.writeNote",
	right: "closePeriods",
	input: z.object({ id: idSchema, note: noteSchema.min(1, "Write something first.") }),
	async run({ context, input: { id, note }, tx }) {
		const close = await closeById(tx, context, id);
		const written = await tx
			.update(closes)
			.set({ note, noteById: context.actor.person.id })
			.where(and(eq(closes.id, id), eq(closes.note, "")))
			.returning({ id: closes.id });
		if (!written.length) throw new Fault(409, "Already written", "This close has its paragraph; it doesn’t change any more.");
		return { result: {}, touched: "nothing", audit: { action: "close commented", subject: id, detail: { period: periodWords(periodOf(close)), note } } };
	},
});

/** Opens a closed period again: it can be closed anew, and what was kept stays in the list, marked. */
export const reopenPeriod = command({
	name: "closes.reopen",
	right: "changeRules",
	input: z.object({ id: idSchema }),
	async run({ context, input: { id }, tx }) {
		const { whose, start, end } = await closeById(tx, context, id);
		const open = await tx
			.update(closes)
			.set({ reopenedAt: new Date(context.now.instant) })
			.where(and(eq(closes.whose, whose), eq(closes.start, start), eq(closes.end, end), isNull(closes.reopenedAt)))
			.returning({ id: closes.id });
		if (!open.length) throw new Fault(409, "Reopened already", "This period is open already.");
		return {
			result: {},
			touched: "nothing",
			audit: { action: "period reopened", subject: id, detail: { period: periodWords(periodOf({ start, end })), whose, closes: open.length } },
		};
	},
});
