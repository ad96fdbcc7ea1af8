import { z } from "zod";
import type { ApiRoute } from "./apiRoute";

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
	description: "The problem, as defined by RFC 9457",
	content: { "application/problem+json": { schema: { $ref: "#/components/schemas/Problem" } } },
};
/** How OpenAPI describes an answer of JSON. */
export const jsonAnswer = (description: string, schema: Json): Json => ({ description, content: { "application/json": { schema } } });

/** The OpenAPI 3.1 document of some calls, made from the schemas that their handlers parse with. */
export function openApi(calls: readonly ApiRoute[]): Json {
	const paths: Record<string, Json> = {};
	const named: Record<string, Json> = { Problem: problem };
	for (const call of calls) paths[call.path] = { ...paths[call.path], [call.method]: operationOf(call, named) };
	return {
		openapi: "3.1.0",
		info: {
			title: "Porch Lamp",
			version: "1",
			description: "Amounts are integers in minor units beside their currency; days are ISO days; `as_of` is a day, and by default now.",
		},
		servers: [{ url: "/api/v1" }],
		security: [{ key: [] }],
		paths,
		components: { schemas: named, securitySchemes: { key: { type: "http", scheme: "bearer" } } },
	};
}

function operationOf(call: ApiRoute, named: Record<string, Json>): Json {
	const parameters: Json[] = [...call.path.matchAll(/\{(\w+)\}/g)].map((match) => ({
		name: match[1],
		in: "path",
		required: true,
		schema: { type: "string" },
	}));
	if (call.ifMatch) parameters.push({ name: "If-Match", in: "header", required: true, description: "the versionId that was seen", schema: { type: "string" } });
	if (call.query) {
		const query = schemaOf(call.query, "input", named) as { properties?: Record<string, Json>; required?: string[] };
		for (const [name, schema] of Object.entries(query.properties ?? {}))
			parameters.push({ name, in: "query", required: query.required?.includes(name) ?? false, schema });
	}
	const file = call.file?.describe((schema) => schemaOf(schema, "output", named));
	const { responses, ...rest } = (file ?? {}) as { responses?: Json };
	return {
		operationId: call.id,
		summary: call.summary,
		...(parameters.length ? { parameters } : {}),
		...(call.body ? { requestBody: { required: true, content: { "application/json": { schema: schemaOf(call.body, "input", named) } } } } : {}),
		...rest,
		responses: {
			...(responses ?? {
				[String(call.status)]: call.answer ? jsonAnswer("Success", schemaOf(call.answer, "output", named)) : { description: "Done" },
			}),
			default: failing,
		},
	};
}
