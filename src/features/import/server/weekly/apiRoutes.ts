import { z } from "zod";
import { Fault } from "@/platform/fault";
import { apiRoute, isoDay } from "@/platform/http/apiRoute";
import { readBody } from "@/platform/http/body";
import { causeSchema } from "../causeSchema";
import { listWeekly } from "./missing";
import { previewWeekly, takeWeekly, weeklyPlanSchema } from "./take";
import { previewTakeOut, takeOutWeekly } from "./takeOut";

const sumSchema = z.object({ count: z.number().int(), amount: z.number().int() });
const comparedSchema = z.object({ name: z.string().optional(), before: sumSchema.nullable(), now: sumSchema });

/** What looking at a weekly file says; the fields that a machine decides by. */
export const weeklyViewSchema = z
	.looseObject({
		name: z.string(),
		day: z.string().nullable(),
		rows: z.number().int(),
		written: z.string().meta({ description: "its encoding, or workbook" }),
		plan: weeklyPlanSchema.meta({ description: "how it was read; send back what should differ" }),
		unsure: z.object({ dates: z.boolean(), amounts: z.boolean(), scale: z.boolean(), encoding: z.boolean(), lines: z.boolean() }),
		dates: z
			.array(z.object({ order: z.string(), samples: z.array(z.object({ text: z.string(), day: z.string().nullable() })) }))
			.meta({ description: "what dates become in each possible order, where one has to be chosen" }),
		encodings: z.array(z.object({ encoding: z.string(), sample: z.string() })),
		differing: z.array(z.object({ id: z.string(), lines: z.array(z.number().int()), words: z.array(z.string()) })),
		goodRows: z
			.number()
			.int()
			.nullable()
			.meta({ description: "rows that can be imported alone with `goodOnly` in the plan; null when no row has to be skipped" }),
		amounts: z.array(z.object({ mark: z.string(), total: z.number().int(), unread: z.number().int() })),
		unknownStages: z.array(z.object({ name: z.string(), count: z.number().int() })),
		people: z.array(z.object({ name: z.string(), count: z.number().int(), who: z.array(z.object({ id: z.string(), words: z.string() })) })),
		causes: z.array(causeSchema).meta({ description: "what is wrong, one cause at a time" }),
		asks: z
			.array(z.object({ key: z.string(), words: z.string(), yes: z.string() }))
			.meta({ description: "name each key in `confirmed` to import the file anyway" }),
		change: z
			.looseObject({
				fresh: z.number().int(),
				changed: z.number().int(),
				same: z.number().int(),
				missing: z.number().int(),
				sums: z.object({ currency: z.string(), total: comparedSchema, stages: z.array(comparedSchema), owners: z.array(comparedSchema) }),
			})
			.nullable()
			.meta({ description: "what importing it would do; null while a question is open" }),
	})
	.meta({ id: "WeeklyView" });

const takenSchema = z.object({
	id: z.string().nullable(),
	day: z.string(),
	before: z.string().nullable(),
	fresh: z.number().int(),
	changed: z.number().int(),
	missing: z.number().int(),
	known: z.boolean().meta({ description: "this exact file was imported before: nothing was changed" }),
});

const json = (description: string, schema: unknown) => ({ description, content: { "application/json": { schema } } });
const dryRun = z
	.enum(["true", "false"])
	.default("false")
	.transform((text) => text === "true");

const planOf = (text: string | undefined) => {
	if (text === undefined) return null;
	try {
		return weeklyPlanSchema.parse(JSON.parse(text));
	} catch (error) {
		if (error instanceof SyntaxError) throw new Fault(400, "Bad request", "The plan isn’t JSON.");
		throw error;
	}
};

export const weeklyRoutes = [
	apiRoute({
		by: previewWeekly,
		id: "takeWeekly",
		method: "post",
		path: "/weekly",
		summary: "Check a weekly file, or import it: CSV or .xlsx as the body",
		status: 200,
		query: z.object({
			name: z.string().max(200).default("weekly.csv").meta({ description: "the file’s name; its day is read from it" }),
			day: isoDay.optional(),
			plan: z.string().max(100_000).optional().meta({ description: "a WeeklyPlan as JSON, with what should be read differently than guessed" }),
			confirmed: z.string().max(500).optional().meta({ description: "keys of `asks`, separated by commas" }),
			dry_run: dryRun,
		}),
		file: {
			describe: (schemaOf) => ({
				requestBody: { required: true, content: { "text/csv": { schema: { type: "string", format: "binary" } } } },
				responses: {
					"200": json("Imported; with dry_run, what that would do", { anyOf: [schemaOf(takenSchema), schemaOf(weeklyViewSchema)] }),
					"409": json("Questions in `asks` have to be confirmed", { type: "object" }),
					"422": json("It can’t be read, or a question has to be answered first", { type: "object" }),
				},
			}),
		},
		run: async (context, { query, request }) => {
			const bytes = await readBody(request, "A weekly file has one row per deal: export only the open deals and the columns you need.");
			const sent = { name: query.name, bytes, day: query.day ?? null, plan: planOf(query.plan) };
			if (query.dry_run) return Response.json(weeklyViewSchema.parse(await previewWeekly(context, sent)));
			const confirmed = (query.confirmed ?? "").split(",").filter(Boolean);
			return Response.json(takenSchema.parse(await takeWeekly(context, { sent, confirmed })));
		},
	}),
	apiRoute({
		by: listWeekly,
		id: "listWeekly",
		method: "get",
		path: "/weekly",
		summary: "Imported weekly files, and the missing deals that wait for a decision",
		status: 200,
		answer: z.object({
			files: z.array(z.object({ id: z.string(), name: z.string(), day: z.string(), covers: z.string(), rows: z.number().int(), by: z.string() })),
			waiting: z.number().int(),
		}),
		run: async (context) => {
			const { files, waiting } = await listWeekly(context);
			return { files, waiting };
		},
	}),
	apiRoute({
		by: takeOutWeekly,
		id: "takeOutWeekly",
		method: "delete",
		path: "/weekly/{id}",
		summary: "Undo the import of a weekly file",
		status: 200,
		query: z.object({ dry_run: dryRun }),
		answer: z.object({
			day: z.string(),
			deals: z.number().int(),
			versions: z.number().int().optional().meta({ description: "with dry_run: versions that would be deleted" }),
			vanishing: z
				.array(z.object({ id: z.string(), name: z.string() }))
				.optional()
				.meta({ description: "with dry_run: deals that only this file has" }),
		}),
		run: async (context, { params, query }) => {
			const fileId = params.id ?? "";
			if (!query.dry_run) return takeOutWeekly(context, { fileId });
			const { day, deals, versions, vanishing } = await previewTakeOut(context, { fileId });
			return { day, deals, versions, vanishing: [...vanishing] };
		},
	}),
];
