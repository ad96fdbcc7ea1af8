import { z } from "zod";
import { page } from "@/platform/http/api";
import { apiRoute, list, paging } from "@/platform/http/apiRoute";
import { closePeriod, correctClose, reopenPeriod } from "./closePeriod";
import { listCloses, readCloseById } from "./readClose";

const line = z
	.object({
		id: z.string(),
		whose: z.string().meta({ description: "`all`, or `team:` and its name" }),
		from: z.iso.date(),
		to: z.iso.date(),
		correction: z.number().int().meta({ description: "0: the close itself" }),
		at: z.iso.datetime(),
		byId: z.string().nullable().meta({ description: "null: it closed by itself" }),
		why: z.string().nullable(),
		seal: z.string().meta({ description: "SHA-256" }),
		whole: z.boolean().meta({ description: "whether it reads as it was sealed" }),
		reopened: z.boolean(),
	})
	.meta({ id: "Close" });

const sum = z.object({ count: z.number().int(), amount: z.number() });
const group = z.object({ key: z.string(), name: z.string(), target: z.number().nullable(), won: sum, lost: sum, open: sum });
const account = z
	.looseObject({
		currency: z.string(),
		target: z.number().nullable(),
		won: sum,
		lost: sum,
		open: sum,
		reps: z.array(group),
		teams: z.array(group),
		families: z.array(group),
		went: z.array(z.looseObject({ kind: z.string(), name: z.string(), leaves: z.boolean(), count: z.number().int(), amount: z.number() })),
		committed: z.object({ said: sum, came: sum }),
		outlooks: z.array(z.object({ day: z.iso.date(), low: z.number(), middle: z.number(), high: z.number() })),
	})
	.meta({ id: "CloseAccount", description: "seen on the last day of the period, at its rates, base minor units" });
const whole = line.extend({ note: z.string(), account }).meta({ id: "CloseWhole" });

const id = (params: Readonly<Record<string, string>>) => params.id ?? "";

export const closeRoutes = [
	apiRoute({
		by: listCloses,
		id: "listCloses",
		method: "get",
		path: "/closes",
		summary: "Closed periods and their corrections that you see in full, newest first",
		status: 200,
		answer: list(line),
		query: z.object(paging),
		run: async (context, { query }) => {
			const { items, next } = page(await listCloses(context), query.cursor, query.limit);
			return { items: items.map((one) => line.parse(one)), next };
		},
	}),
	apiRoute({
		by: closePeriod,
		id: "closePeriod",
		method: "post",
		path: "/closes",
		summary: "Close a period that is over: how it ended is kept, sealed",
		status: 201,
		answer: z.object({ id: z.string(), seal: z.string() }),
		body: closePeriod.input,
		run: (context, { body }) => closePeriod(context, body),
	}),
	apiRoute({
		by: readCloseById,
		id: "readClose",
		method: "get",
		path: "/closes/{id}",
		summary: "How a period ended, as it was kept",
		status: 200,
		answer: whole,
		run: async (context, { params }) => whole.parse(await readCloseById(context, id(params))),
	}),
	apiRoute({
		by: correctClose,
		id: "correctClose",
		method: "post",
		path: "/closes/{id}/corrections",
		summary: "Keep how a closed period reads now, marked as a correction",
		status: 201,
		answer: z.object({ id: z.string(), seal: z.string() }),
		body: z.object({ why: correctClose.input.shape.why }).meta({ id: "NewCloseCorrection" }),
		run: (context, { params, body }) => correctClose(context, { id: id(params), ...body }),
	}),
	apiRoute({
		by: reopenPeriod,
		id: "reopenPeriod",
		method: "post",
		path: "/closes/{id}/reopen",
		summary: "Open a closed period again",
		status: 200,
		answer: z.object({}),
		run: (context, { params }) => reopenPeriod(context, { id: id(params) }),
	}),
];
