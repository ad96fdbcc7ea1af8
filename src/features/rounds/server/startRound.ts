import { z } from "zod";
import { byAttention } from "@/core/attention/attention";
import { sealAt } from "@/core/bridge/seal";
import type { DealSeen } from "@/core/dealSeen";
import { newestVersion } from "@/core/history/columns";
import { formatDay } from "@/core/time/day";
import { shortDay } from "@/core/time/words";
import type { Tx } from "@/data/db";
import { marks, roundDeals, rounds } from "@/data/schema";
import { listedDeals } from "@/features/deals";
import { command } from "@/platform/command";
import type { Context } from "@/platform/context";
import { Fault, notFound } from "@/platform/fault";
import { newId } from "@/platform/ids";
import { idSchema } from "@/platform/input";
import { reachDeal } from "@/platform/reachDeal";
import { keptName } from "@/platform/sharing";
import { resolveViewpoint } from "@/platform/viewpoint";
import { SORTINGS } from "../table/kinds";
import { announce, lastHeld, planById, type StoredRound } from "./stored";
import { totalsToKeep } from "./totals";

const MOST = 500;

/** What a round is started with. */
export const newRoundSchema = z
	.object({
		name: keptName("round").optional(),
		whose: z.string().max(300).optional().meta({ description: "`team:North`, `person:ID` or `all`; by default your own people" }),
		due: z.string().max(60).optional().meta({ description: "a quarter, a month or two days, as in an address; by default this quarter" }),
		dealIds: z.array(idSchema).max(MOST, `A round takes ${MOST} deals at most.`).optional().meta({ description: "only these deals" }),
		sorted: z.enum(SORTINGS).default("attention"),
		calmToo: z.boolean().default(false),
		planId: idSchema.optional(),
	})
	.meta({ id: "NewRound" });

/**
 * Starts a round over the open deals of somebody's period, or over some deals that were chosen, and keeps the moment as a
 * mark. Only those at *watch* or *act* unless calm ones are wanted too; chosen ones are all taken.
 *
 * @throws Fault 409 where there is nothing to go through; 404 a deal out of reach
 */
export const startRound = command({
	name: "rounds.start",
	right: "holdRounds",
	input: newRoundSchema,
	alone: true,
	async run({ context, input, tx }) {
		const plan = input.planId ? await planById(tx, context, input.planId) : null;
		const viewpoint = resolveViewpoint(context, { whose: input.whose ?? plan?.whose, due: input.due });
		const { organisation, now } = context;
		if (!viewpoint.due.period) throw new Fault(422, "No period", "A round needs a period; choose one in the sentence above.");
		if (plan) {
			if (viewpoint.whose.key !== plan.whose)
				throw new Fault(
					422,
					"Another round’s plan",
					`“${plan.name}” is planned for other people than ${viewpoint.whose.label.replace(/’s$/, "")}; start it with the plan’s people.`,
				);
			await demandNotHeld(tx, context, plan.id);
		}
		const chosen = input.dealIds?.map((id) => reachDeal(context, id).seen);
		const found = chosen ?? listedDeals(context, viewpoint).filter(({ attention }) => input.calmToo || attention.level !== "calm");
		const open = found.filter(({ status }) => status === "open");
		if (!open.length)
			throw new Fault(
				409,
				"No deals to review",
				chosen
					? "None of these deals is open."
					: input.calmToo
						? "There is no open deal in this period."
						: "None of these deals is lit; include calm deals to start.",
			);
		if (open.length > MOST)
			throw new Fault(422, "Too many", `A round takes ${MOST} deals at most; these are ${open.length}. Choose fewer people, or exclude calm deals.`);
		const name =
			input.name ??
			`Round with ${viewpoint.whose.label
				.replace(/’s$/, "")
				.replace(/^My$/, "my own deals")
				.replace(/^Everyone$/, "everyone")}`;
		const ids = inQueue(context, open, input.sorted, chosen !== undefined);
		const round = await begin(tx, context, {
			kind: "round",
			name,
			whose: viewpoint.whose.key,
			due: viewpoint.due.key,
			sorted: input.sorted,
			planId: input.planId ?? null,
			ids,
		});
		const mark = `${name}, ${shortDay(now.day)}`.slice(0, 100);
		const { history } = organisation.company;
		const newest = newestVersion(history);
		const seal = sealAt(organisation.company, now.instant);
		await tx
			.insert(marks)
			.values({ at: new Date(now.instant), name: mark, byId: context.actor.person.id, seal, newest })
			.onConflictDoNothing();
		await announce(tx, context, round);
		return {
			result: { id: round.id, name, deals: ids.length, mark },
			touched: "marks",
			audit: { action: "round started", subject: round.id, detail: { name, deals: ids.length } },
		};
	},
});

/** Of two who start a planned round at once the second is led to the first one's. */
export async function demandNotHeld(tx: Tx, context: Context, planId: string): Promise<void> {
	if ((await lastHeld(tx, context)).get(planId) === context.now.day)
		throw new Fault(409, "Already started", "A round of this plan was already started today; see the list of rounds.");
}

/** The ids of deals as they lie in a queue; in the order they were chosen in, where they are put by hand. */
export function inQueue({ organisation }: Context, open: readonly DealSeen[], sorted: (typeof SORTINGS)[number], chosen: boolean): string[] {
	const rows = open.map((seen) => ({ id: organisation.deals[seen.deal]?.id ?? "", amountBase: seen.amountBase, score: seen.attention.score }));
	if (sorted === "amount") rows.sort((a, b) => b.amountBase - a.amountBase || byAttention(a, b));
	else if (sorted === "attention" || !chosen) rows.sort(byAttention);
	return [...new Set(rows.map(({ id }) => id))];
}

interface Beginning extends Pick<StoredRound, "kind" | "name" | "whose" | "due" | "sorted" | "planId"> {
	readonly ids: readonly string[];
}

/** Writes a round with its queue, and what its period comes to at its start. */
export async function begin(tx: Tx, context: Context, { ids, ...given }: Beginning): Promise<StoredRound> {
	const row = {
		...given,
		id: newId("round"),
		startedById: context.actor.person.id,
		startedAt: new Date(context.now.instant),
		atDeal: ids[0] ?? null,
		endedAt: null,
		endedById: null,
		note: "",
		after: null,
		beganReally: new Date(),
		endedReally: null,
	};
	const before = totalsToKeep(context, { ...row, before: { target: null, won: 0, byWord: 0, byCalls: 0, shaky: 0 } }, new Map());
	const [round] = await tx
		.insert(rounds)
		.values({ ...row, before })
		.returning();
	if (!round) throw notFound("round", row.id);
	if (ids.length) await tx.insert(roundDeals).values(ids.map((dealId, place) => ({ roundId: round.id, dealId, place })));
	return round;
}

/** The day a round was started, in the company’s zone. */
export const startedOn = (context: Context, round: Pick<StoredRound, "startedAt">): string =>
	formatDay(context.organisation.company.rules.zone.dayOf(round.startedAt.getTime()));
