import { z } from "zod";
import { importSchema } from "@/features/import/server/importBundle";
import { ENDPOINTS, type Endpoint } from "./contract";

type Json = Record<string, unknown>;

/** A schema's JSON, with named schemas gathered among the document's components. */
function schemaOf(schema: z.ZodType, io: "input" | "output", named: Record<string, Json>): Json {
	const text = JSON.stringify(z.toJSONSchema(schema, { io, unrepresentable: "any" })).replaceAll("#/$defs/", "#/components/schemas/");
	const { $schema: _, $defs = {}, id: __, ...json } = JSON.parse(text) as Json & { $defs?: Record<string, Json> };
	for (const [name, { id: ___, ...body }] of Object.entries($defs)) named[name] = body;
	return json;
}

const problem: Json = {
	type: "object",
	properties: { type: { type: "string" }, title: { type: "string" }, status: { type: "integer" }, detail: { type: "string" } },
	required: ["type", "title", "status", "detail"],
};
const failing: Json = {
	description: "What is wrong, as RFC 9457 has it",
	content: { "application/problem+json": { schema: { $ref: "#/components/schemas/Problem" } } },
};
const jsonAnswer = (description: string, schema: Json): Json => ({ description, content: { "application/json": { schema } } });

/** The OpenAPI 3.1 document, made from the schemas that the handlers parse with. */
export function openApi(): Json {
	const paths: Record<string, Json> = {};
	const named: Record<string, Json> = { Problem: problem };
	const put = (path: string, method: string, operation: Json) => {
		paths[path] = { ...paths[path], [method]: operation };
	};
	for (const [operationId, endpoint] of Object.entries(ENDPOINTS) as [string, Endpoint][])
		put(endpoint.path, endpoint.method, operationOf(operationId, endpoint, named));

	const flag = (name: string, description: string) => ({ name, in: "query", description, schema: { type: "string", enum: ["true", "false"] } });
	const report = schemaOf(importSchema, "output", named);
	put("/imports", "post", {
		operationId: "importBundle",
		summary: "Import a bundle: all of it, or nothing",
		parameters: [
			flag("dry_run", "check and report, write nothing"),
			flag("skip_bad", "write the rows without problems although others have some"),
			flag("wait", "false: answer at once with 202 and the id"),
		],
		requestBody: { required: true, content: { "application/zip": { schema: { type: "string", format: "binary" } } } },
		responses: {
			"200": jsonAnswer("Done, or checked", report),
			"202": jsonAnswer("Started", { type: "object", properties: { id: { type: "string" } } }),
			"422": jsonAnswer("Refused, with the problems", report),
			default: failing,
		},
	});
	put("/export", "get", {
		operationId: "exportBundle",
		summary: "The whole organisation as a bundle",
		responses: { "200": { description: "A zip", content: { "application/zip": { schema: { type: "string", format: "binary" } } } }, default: failing },
	});
	return {
		openapi: "3.1.0",
		info: {
			title: "Porch Lamp",
			version: "1",
			description: "Amounts are integers in minor units beside their currency; days are ISO days; `as_of` is a day, and without it now.",
		},
		servers: [{ url: "/api/v1" }],
		security: [{ key: [] }],
		paths,
		components: { schemas: named, securitySchemes: { key: { type: "http", scheme: "bearer" } } },
	};
}

function operationOf(operationId: string, endpoint: Endpoint, named: Record<string, Json>): Json {
	const parameters: Json[] = [...endpoint.path.matchAll(/\{(\w+)\}/g)].map((match) => ({
		name: match[1],
		in: "path",
		required: true,
		schema: { type: "string" },
	}));
	if (endpoint.ifMatch)
		parameters.push({ name: "If-Match", in: "header", required: true, description: "the versionId that was seen", schema: { type: "string" } });
	if (endpoint.query) {
		const query = schemaOf(endpoint.query, "input", named) as { properties?: Record<string, Json>; required?: string[] };
		for (const [name, schema] of Object.entries(query.properties ?? {}))
			parameters.push({ name, in: "query", required: query.required?.includes(name) ?? false, schema });
	}
	return {
		operationId,
		summary: endpoint.summary,
		...(parameters.length ? { parameters } : {}),
		...(endpoint.body ? { requestBody: { required: true, content: { "application/json": { schema: schemaOf(endpoint.body, "input", named) } } } } : {}),
		responses: {
			[String(endpoint.status)]: endpoint.answer ? jsonAnswer("As asked", schemaOf(endpoint.answer, "output", named)) : { description: "Done" },
			default: failing,
		},
	};
}
