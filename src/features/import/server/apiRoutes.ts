import { z } from "zod";
import { zipStream } from "@/formats/bundle/write";
import { page } from "@/platform/http/api";
import { apiRoute, list, paging } from "@/platform/http/apiRoute";
import { readBody } from "@/platform/http/body";
import { streamedAnswer } from "@/platform/http/streamed";
import { bundleFiles, exportBundle } from "./exportBundle";
import { importSchema, listImports, readImport, registerImport, startImport } from "./importBundle";
import { pushRoutes } from "./push/apiRoutes";
import { weeklyRoutes } from "./weekly/apiRoutes";

const flag = (standard: "true" | "false", description: string) =>
	z
		.enum(["true", "false"])
		.default(standard)
		.transform((text) => text === "true")
		.meta({ description });

const zip = { "application/zip": { schema: { type: "string", format: "binary" } } };
const json = (description: string, schema: unknown) => ({ description, content: { "application/json": { schema } } });

export const importRoutes = [
	...weeklyRoutes,
	...pushRoutes,
	apiRoute({
		by: registerImport,
		id: "importBundle",
		method: "post",
		path: "/imports",
		summary: "Import a bundle: all of it, or nothing",
		status: 200,
		query: z.object({
			dry_run: flag("false", "check and report, write nothing"),
			skip_bad: flag("false", "write the rows without problems although others have some"),
			wait: flag("true", "false: answer at once with 202 and the id"),
			name: z.string().max(200).default("bundle.zip"),
		}),
		file: {
			describe: (schemaOf) => ({
				requestBody: { required: true, content: zip },
				responses: {
					"200": json("Done, or checked", schemaOf(importSchema)),
					"202": json("Started", { type: "object", properties: { id: { type: "string" } } }),
					"422": json("Refused, with the problems", schemaOf(importSchema)),
				},
			}),
		},
		run: async (context, { query, request }) => {
			const bytes = await readBody(request, "Split it, or import it on the server with npm run import -- DIR.");
			const { id, end } = await startImport(context, bytes, { dryRun: query.dry_run, skipBad: query.skip_bad, name: query.name });
			if (!query.wait) return Response.json({ id }, { status: 202 });
			const report = await end;
			return Response.json(report, { status: report.state === "refused" ? 422 : report.state === "failed" ? 500 : 200 });
		},
	}),
	apiRoute({
		by: listImports,
		id: "listImports",
		method: "get",
		path: "/imports",
		summary: "The last 20 imports",
		status: 200,
		answer: list(importSchema),
		query: z.object(paging),
		run: async (context, { query }) => page(await listImports(context), query.cursor, query.limit),
	}),
	apiRoute({
		by: readImport,
		id: "readImport",
		method: "get",
		path: "/imports/{id}",
		summary: "An import: its progress, then its report",
		status: 200,
		answer: importSchema,
		run: (context, { params }) => readImport(context, params.id ?? ""),
	}),
	apiRoute({
		by: exportBundle,
		id: "exportBundle",
		method: "get",
		path: "/export",
		summary: "The whole organisation as a bundle",
		status: 200,
		file: { describe: () => ({ responses: { "200": { description: "A zip", content: zip } } }) },
		run: async (context) =>
			streamedAnswer(zipStream(bundleFiles(await exportBundle(context, {}))), {
				"content-type": "application/zip",
				"content-disposition": 'attachment; filename="porch-lamp-bundle.zip"',
			}),
	}),
];
