import { and, desc, eq } from "drizzle-orm";
import { z } from "zod";
import { blockOf } from "@/core/history/columns";
import { categoryOf, rowOf } from "@/core/inspect";
import { CALLS, type Call, callKind, findCall } from "@/core/rounds/calls";
import { formatDay, isoOrNull, parseDay } from "@/core/time/day";
import { shortDay } from "@/core/time/words";
import type { Tx } from "@/data/db";
import { roundCalls } from "@/data/schema";
import { applyEdit } from "@/features/deals";
import { give, lineSchema, touchedBy } from "@/features/tasks";
import { command } from "@/platform/command";
import type { Context } from "@/platform/context";
import { Fault } from "@/platform/fault";
import { dayInput, idSchema } from "@/platform/input";
import { personName } from "@/platform/names";
import { reachDeal } from "@/platform/reachDeal";
import type { AuditEntry } from "@/platform/write";
import { DECISION_WORDS, DECISIONS, type Decision } from "../table/kinds";
import { announce, dealOfRound, runningRound, type StoredCall, type StoredRound } from "./stored";

export const callFields = {
	call: z.enum(CALLS),
	/** the new day of one that moves */
	to: dayInput.optional(),
	why: z.string().trim().max(500, "A reason has at most 500 letters.").optional(),
	competitor: z.string().trim().max(200, "A competitor’s name has at most 200 letters.").optional(),
	/** `deal`: the deal is changed at once; `task`: it is left for its owner as a promise; `none`: only said */
	leave: z.enum(["none", "deal", "task"]).default("none"),
	/** the newest call of this deal that was seen, null for none: two who call at once don't overwrite each other */
	seen: z.number().int().nullable().default(null),
};

/**
 * Says the manager's word on a deal of a round. *moves* says the new day and why, *gone* the reason; both may be done to
 * the deal at once, or left for its owner as a promise.
 *
 * @throws Fault 409 where somebody else has called it since, or the round has ended, or the deal is closed; 422 what is missing
 */
export const makeCall = command({
	name: "rounds.call",
	right: "holdRounds",
	input: z.object({ id: idSchema, dealId: idSchema, ...callFields }),
	async run({ context, input, tx }) {
		const round = await runningRound(tx, context, input.id);
		await dealOfRound(tx, context, round, input.dealId);
		demandOpen(context, input.dealId);
		await demandNewest(tx, context, round, input.dealId, input.seen);
		const today = formatDay(context.now.day);
		const { asks } = callKind(input.call);
		if (asks === "day") {
			if (!input.to) throw new Fault(422, "No day", "Enter the new close date.");
			if (input.to < today) throw new Fault(422, "The day has passed", `It can’t move to ${input.to}; today is ${today}.`);
			if (!input.why) throw new Fault(422, "No reason", "Enter a reason for the new date.");
		}
		if (asks === "loss" && !input.why) throw new Fault(422, "No reason", "Enter a reason for the loss.");
		const left = await leave(tx, context, round, input);
		const row = await writeCall(tx, context, round, input.dealId, {
			call: input.call,
			toDay: asks === "day" ? (input.to ?? null) : null,
			why: asks ? (input.why ?? null) : null,
			competitor: asks === "loss" ? input.competitor || null : null,
			left: asks ? input.leave : "none",
		});
		await announce(tx, context, round);
		return {
			result: { id: row.id, task: left.task, version: left.version },
			touched: left.touched,
			audit: [
				{ action: "deal called", subject: input.dealId, detail: { round: round.name, call: input.call, to: input.to ?? null, left: input.leave } },
				...left.audit,
			],
		};
	},
});

/** Takes a call back, by whoever made it: the deal is as if it had not been called. What was done to the deal by it stays its own to undo. */
export const takeCallBack = command({
	name: "rounds.takeCallBack",
	right: "holdRounds",
	input: z.object({ id: idSchema, dealId: idSchema, seen: z.number().int() }),
	async run({ context, input, tx }) {
		const round = await runningRound(tx, context, input.id);
		await demandNewest(tx, context, round, input.dealId, input.seen);
		const row = await writeCall(tx, context, round, input.dealId, { call: null, toDay: null, why: null, competitor: null, left: "none" });
		await announce(tx, context, round);
		return { result: { id: row.id }, touched: "nothing", audit: { action: "call undone", subject: input.dealId, detail: { round: round.name } } };
	},
});

/** Decides on a deal of a walk: a remedy was given, it was looked at, or it rests. */
export const decide = command({
	name: "rounds.decide",
	right: "holdRounds",
	input: z.object({
		id: idSchema,
		dealId: idSchema,
		decision: z.enum(DECISIONS),
		why: z.string().trim().max(500).optional(),
		seen: callFields.seen,
	}),
	async run({ context, input, tx }) {
		const round = await runningRound(tx, context, input.id);
		if (round.kind !== "walk") throw new Fault(409, "Not a walk", "In a round, deals are called; decisions are for walks.");
		await dealOfRound(tx, context, round, input.dealId);
		demandOpen(context, input.dealId);
		await demandNewest(tx, context, round, input.dealId, input.seen);
		const row = await writeCall(tx, context, round, input.dealId, {
			call: input.decision,
			toDay: null,
			why: input.why || null,
			competitor: null,
			left: "none",
		});
		await announce(tx, context, round);
		return {
			result: { id: row.id },
			touched: "nothing",
			audit: { action: "walk decision made", subject: input.dealId, detail: { round: round.name, decision: input.decision } },
		};
	},
});

function demandOpen(context: Context, dealId: string): void {
	const { seen } = reachDeal(context, dealId);
	if (seen.status !== "open") throw new Fault(409, "The deal is closed", `It is ${seen.status} since; nothing to decide.`);
}

/** Throws a 409 that says who called a deal meanwhile, and what. */
async function demandNewest(tx: Tx, { organisation }: Context, round: StoredRound, dealId: string, seen: number | null): Promise<void> {
	const [newest] = await tx
		.select()
		.from(roundCalls)
		.where(and(eq(roundCalls.roundId, round.id), eq(roundCalls.dealId, dealId)))
		.orderBy(desc(roundCalls.id))
		.limit(1);
	if ((newest?.id ?? null) === seen) return;
	const who = personName(organisation, newest?.byId ?? null) ?? "Somebody";
	const decided = DECISION_WORDS[newest?.call as Decision];
	const said = decided ? `decided “${decided}”` : newest?.call ? `called it ${(findCall(newest.call)?.label ?? newest.call).toLowerCase()}` : "undid the call";
	throw new Fault(409, "Called by someone else", `${who} ${said} in the meantime. Your call wasn’t saved; check the deal and call again.`);
}

/** Writes a call with what the rep said of the deal then. */
async function writeCall(
	tx: Tx,
	context: Context,
	round: StoredRound,
	dealId: string,
	said: Pick<StoredCall, "call" | "toDay" | "why" | "competitor" | "left">,
): Promise<StoredCall> {
	const { organisation, actor, now } = context;
	const { seen } = reachDeal(context, dealId);
	const [row] = await tx
		.insert(roundCalls)
		.values({
			roundId: round.id,
			dealId,
			at: new Date(now.instant),
			byId: actor.person.id,
			...said,
			category: categoryOf(organisation.company, seen),
			amountBase: seen.amountBase,
			closeDay: isoOrNull(seen.close),
			ownerId: organisation.people[seen.owner]?.id ?? null,
		})
		.returning();
	return row as StoredCall;
}

/** Does what a call says to the deal, or leaves it for its owner. */
async function leave(
	tx: Tx,
	context: Context,
	round: StoredRound,
	{
		dealId,
		call,
		to,
		why,
		competitor,
		leave: how,
	}: { dealId: string; call: Call; to?: string | undefined; why?: string | undefined; competitor?: string | undefined; leave: string },
): Promise<{ touched: readonly string[] | "nothing"; audit: readonly AuditEntry[]; task: string | null; version: number | null }> {
	const nothing = { touched: "nothing" as const, audit: [], task: null, version: null };
	const { asks } = callKind(call);
	if (how === "none" || !asks) return nothing;
	const { organisation } = context;
	const { index, seen } = reachDeal(context, dealId);
	if (how === "deal") {
		const { stages } = organisation.company.rules;
		const versionId = blockOf(organisation.company.history, seen.deal).id[rowOf(organisation.company.history, seen)] as number;
		const lost = stages.find(({ kind }) => kind === "lost")?.name;
		if (asks === "loss" && !lost) throw new Fault(422, "No such stage", "There is no stage for lost deals; ops can add one.");
		const change =
			asks === "day"
				? { closeDate: to as string, reason: why as string }
				: { stage: lost as string, outcomeReason: why as string, ...(competitor ? { competitor } : {}) };
		const { done, audit } = await applyEdit(tx, context, [{ id: dealId, versionId }], change);
		return { touched: [dealId], audit, task: null, version: done[0]?.versionId ?? null };
	}
	const day = parseDay(to ?? "");
	const title = asks === "day" ? `Move the close date to ${day === null ? to : shortDay(day)}: ${why}` : `Close it as lost: ${why}`;
	const { calendar } = organisation.company.rules;
	const line = lineSchema.parse({ dealId, title: title.slice(0, 300), dueOn: formatDay(calendar.add(context.now.day, 2)) });
	const { tasks } = await give(tx, context, [line], round.id);
	const touched = touchedBy(tasks);
	return { touched: Array.isArray(touched) ? touched : [organisation.deals[index]?.id ?? dealId], audit: [], task: tasks[0]?.id ?? null, version: null };
}
