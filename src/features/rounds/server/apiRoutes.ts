import { z } from "zod";
import { FATES } from "@/core/rounds/promise";
import { page } from "@/platform/http/api";
import { apiRoute, list, paging } from "@/platform/http/apiRoute";
import { endRound } from "./endRound";
import { callFields, makeCall } from "./makeCall";
import { readMinutes } from "./readMinutes";
import { readRests } from "./readRests";
import { readRounds } from "./readRounds";
import { endRest, giveRest } from "./rests";
import { newRoundSchema, startRound } from "./startRound";

const roundLine = z
	.object({
		id: z.string(),
		kind: z.enum(["round", "walk"]),
		name: z.string(),
		whose: z.string(),
		period: z.string(),
		on: z.iso.date(),
		startedBy: z.string(),
		ended: z.boolean(),
		deals: z.number().int(),
		called: z.number().int(),
		moved: z.number().int().nullable().meta({
			description:
				"by how much the calls changed the period’s total, for the people you see; null while the round runs, and where only a total including others was stored",
		}),
	})
	.meta({ id: "Round" });

const totals = z
	.object({ target: z.number().nullable(), won: z.number(), byWord: z.number(), byCalls: z.number(), shaky: z.number() })
	.meta({ id: "RoundTotals" });

const minutes = z
	.object({
		id: z.string(),
		kind: z.string(),
		name: z.string(),
		on: z.iso.date(),
		startedBy: z.string(),
		ended: z.boolean(),
		note: z.string(),
		currency: z.string(),
		before: totals.nullable().meta({ description: "for the people you see; null where only a total including others was stored" }),
		after: totals.nullable(),
		deals: z.array(
			z.object({
				id: z.string(),
				name: z.string(),
				ownerId: z.string().nullable(),
				category: z.string().nullable(),
				amount: z.number(),
				call: z.object({ id: z.number().int(), call: z.string(), to: z.iso.date().nullable(), why: z.string().nullable(), by: z.string() }).nullable(),
				note: z.string(),
				changes: z.array(z.object({ words: z.string(), by: z.string() })),
			}),
		),
		promises: z.array(
			z.object({ id: z.string(), dealId: z.string().nullable(), title: z.string(), who: z.string(), due: z.iso.date().nullable(), fate: z.enum(FATES) }),
		),
		kept: z.record(z.enum(FATES), z.number().int()).meta({ description: "outcomes of the promises of earlier rounds" }),
	})
	.meta({ id: "Minutes" });

const rest = z
	.object({
		id: z.string(),
		dealId: z.string(),
		state: z.enum(["asked", "given", "refused"]),
		from: z.iso.date(),
		until: z.iso.date(),
		reason: z.string(),
		askedBy: z.string().nullable(),
		by: z.string().nullable(),
		holds: z.boolean(),
		over: z.string().nullable(),
	})
	.meta({ id: "Rest" });

const id = (params: Readonly<Record<string, string>>) => params.id ?? "";

export const roundRoutes = [
	apiRoute({
		by: readRounds,
		id: "listRounds",
		method: "get",
		path: "/rounds",
		summary: "Rounds you take part in, and your own walks, newest first",
		status: 200,
		answer: list(roundLine),
		query: z.object(paging),
		run: async (context, { query }) => {
			const { items, next } = page((await readRounds(context)).rounds, query.cursor, query.limit);
			return { items: items.map((one) => roundLine.parse(one)), next };
		},
	}),
	apiRoute({
		by: startRound,
		id: "startRound",
		method: "post",
		path: "/rounds",
		summary: "Start a round over the deals of a period, or over some of them",
		status: 201,
		answer: z.object({ id: z.string(), name: z.string(), deals: z.number().int(), mark: z.string() }),
		body: newRoundSchema,
		run: (context, { body }) => startRound(context, body),
	}),
	apiRoute({
		by: readMinutes,
		id: "readRound",
		method: "get",
		path: "/rounds/{id}",
		summary: "A round with its calls, changes, promises, and totals before and after: its minutes, also while it is running",
		status: 200,
		answer: minutes,
		run: async (context, { params }) => minutes.parse(await readMinutes(context, id(params))),
	}),
	apiRoute({
		by: makeCall,
		id: "callDeal",
		method: "post",
		path: "/rounds/{id}/calls",
		summary: "Call a deal of a round that runs",
		status: 201,
		answer: z.object({ id: z.number().int(), task: z.string().nullable(), version: z.number().int().nullable() }),
		body: z.object({ dealId: z.string(), ...callFields }).meta({ id: "NewCall" }),
		run: (context, { params, body }) => makeCall(context, { id: id(params), ...body }),
	}),
	apiRoute({
		by: endRound,
		id: "endRound",
		method: "post",
		path: "/rounds/{id}/end",
		summary: "End a round",
		status: 200,
		answer: z.object({ id: z.string(), after: totals.nullable() }),
		run: (context, { params }) => endRound(context, { id: id(params) }),
	}),
	apiRoute({
		by: readRests,
		id: "listRests",
		method: "get",
		path: "/rests",
		summary: "Rests of the deals you see: in force, asked for, or over; newest first",
		status: 200,
		answer: list(rest),
		query: z.object(paging),
		run: async (context, { query }) => {
			const { items, next } = page((await readRests(context)).rests, query.cursor, query.limit);
			return { items: items.map((one) => rest.parse(one)), next };
		},
	}),
	apiRoute({
		by: giveRest,
		id: "giveRest",
		method: "post",
		path: "/rests",
		summary: "Let a lit deal rest until a day, with a reason",
		status: 201,
		answer: z.object({ id: z.string() }),
		body: giveRest.input,
		run: (context, { body }) => giveRest(context, body),
	}),
	apiRoute({
		by: endRest,
		id: "endRest",
		method: "delete",
		path: "/rests/{id}",
		summary: "End a rest today",
		status: 200,
		answer: z.object({}),
		run: (context, { params }) => endRest(context, { id: id(params) }),
	}),
];
