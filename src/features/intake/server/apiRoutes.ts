import { z } from "zod";
import { writeCards } from "@/formats/cards";
import { Fault } from "@/platform/fault";
import { apiRoute } from "@/platform/http/apiRoute";
import { idSchema } from "@/platform/input";
import { cardsOf } from "./cards";
import { adding, previewIntake } from "./preview";
import { spool } from "./spool";
import { registerIntake, startIntake, takeIntake, undoIntake } from "./take";

const binary = { "application/octet-stream": { schema: { type: "string", format: "binary" } } };
const loggedSchema = z.object({ logged: z.number().int(), contacts: z.number().int(), left: z.number().int() }).meta({ id: "Logged" });
const lineSchema = z.object({
	ordinal: z.number().int(),
	sort: z.string(),
	day: z.string().nullable(),
	direction: z.string().nullable(),
	planned: z.boolean(),
	from: z.string(),
	to: z.array(z.string()),
	subject: z.string(),
	fate: z.string().meta({ description: "new, there or left" }),
	why: z.string().nullable(),
});
const intakeSchema = z
	.object({
		id: z.string(),
		name: z.string(),
		state: z.string().meta({ description: "reading, ready, taken, undone, failed or cancelled" }),
		done: z.number().int(),
		total: z.number().int().meta({ description: "bytes" }),
		problems: z.array(z.string()),
		counts: z.object({ new: z.number().int(), there: z.number().int(), left: z.number().int(), cards: z.number().int() }).nullable(),
		lines: z.array(lineSchema),
		more: z.number().int(),
		strangers: z.array(z.object({ address: z.string(), name: z.string(), times: z.number().int() })),
		cards: z.array(
			z.object({ ordinal: z.number().int(), name: z.string(), email: z.string().nullable(), title: z.string().nullable(), fate: z.string().nullable() }),
		),
	})
	.meta({ id: "Intake" });

export const intakeRoutes = [
	apiRoute({
		by: registerIntake,
		id: "startIntake",
		method: "post",
		path: "/intakes",
		summary:
			"Hand in messages (RFC 5322, mbox), meetings (RFC 5545) or people (RFC 6350) for a deal or an account; they are read and shown before anything is logged",
		status: 202,
		query: z.object({ deal: idSchema.optional(), account: idSchema.optional(), name: z.string().max(300).default("messages") }),
		file: {
			describe: () => ({
				requestBody: { required: true, content: binary },
				responses: {
					"202": { description: "Being read", content: { "application/json": { schema: { type: "object", properties: { id: { type: "string" } } } } } },
				},
			}),
		},
		run: async (context, { query: { deal, account, name }, request }) => {
			if ((deal === undefined) === (account === undefined)) throw new Fault(400, "Bad request", "Name a deal or an account.");
			const { id } = await startIntake(context, { dealId: deal ?? null, accountId: account ?? null }, name, await spool(request));
			return Response.json({ id }, { status: 202 });
		},
	}),
	apiRoute({
		by: previewIntake,
		id: "readIntake",
		method: "get",
		path: "/intakes/{id}",
		summary: "What a file holds, and what would be logged of it",
		status: 200,
		answer: intakeSchema,
		run: (context, { params }) => previewIntake(context, { id: params.id ?? "" }),
	}),
	apiRoute({
		by: takeIntake,
		id: "takeIntake",
		method: "post",
		path: "/intakes/{id}",
		summary: "Log what is new in a file; people named in adding become contacts",
		status: 200,
		answer: loggedSchema,
		body: z
			.object({ adding, without: z.array(z.number().int().min(0)).max(1000).default([]) })
			.strict()
			.meta({ id: "TakeIntake" }),
		run: (context, { params, body }) => takeIntake(context, { id: params.id ?? "", ...body }),
	}),
	apiRoute({
		by: undoIntake,
		id: "undoIntake",
		method: "delete",
		path: "/intakes/{id}",
		summary: "Undo what was logged of a file",
		status: 204,
		run: (context, { params }) => undoIntake(context, { id: params.id ?? "" }),
	}),
	apiRoute({
		by: cardsOf,
		id: "readCards",
		method: "get",
		path: "/accounts/{id}/contacts.vcf",
		summary: "The people of an account as cards (vCard 4.0, RFC 6350); contact names one of them",
		status: 200,
		query: z.object({ contact: idSchema.optional() }),
		file: { describe: () => ({ responses: { "200": { description: "Cards", content: { "text/vcard": { schema: { type: "string" } } } } } }) },
		run: async (context, { params, query }) =>
			new Response(writeCards(await cardsOf(context, params.id ?? "", query.contact)), {
				headers: { "content-type": "text/vcard; charset=utf-8", "content-disposition": 'attachment; filename="contacts.vcf"' },
			}),
	}),
];
