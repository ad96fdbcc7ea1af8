import { Readable } from "node:stream";
import { z } from "zod";
import { KINDS } from "@/formats/columns";
import { apiRoute, isoDay, whose } from "@/platform/http/apiRoute";
import { streamedAnswer } from "@/platform/http/streamed";
import { FORMS, listTables, readTable, TYPES } from "./readTable";

const tableSchema = z
	.object({
		name: z.string(),
		about: z.string(),
		columns: z.array(z.object({ name: z.string(), kind: z.enum(KINDS), about: z.string() })),
	})
	.meta({ id: "Table" });

export const tableRoutes = [
	apiRoute({
		by: listTables,
		id: "listTables",
		method: "get",
		path: "/tables",
		summary: "The tables that can be read as files, with their columns",
		status: 200,
		answer: z.object({ items: z.array(tableSchema) }),
		run: (context) => ({ items: listTables(context) }),
	}),
	apiRoute({
		by: readTable,
		id: "readTable",
		method: "get",
		path: "/tables/{name}",
		summary: "A table, all of it, as CSV or Apache Parquet, as seen on a day; it is sent while it is made",
		status: 200,
		query: z.object({ as: z.enum(FORMS).default("csv"), as_of: isoDay.optional(), ...whose }),
		file: {
			describe: () => ({
				responses: {
					"200": {
						description: "The table",
						content: Object.fromEntries(FORMS.map((form) => [TYPES[form], { schema: { type: "string", format: "binary" } }])),
					},
				},
			}),
		},
		run: async (context, { params, query }) => {
			const { name, bytes } = await readTable(context, params.name ?? "", query);
			return streamedAnswer(Readable.toWeb(Readable.from(bytes)) as ReadableStream<Uint8Array>, {
				"content-type": TYPES[query.as],
				"content-disposition": `attachment; filename="${name}"`,
				"cache-control": "no-store",
			});
		},
	}),
];
