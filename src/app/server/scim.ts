import { resourceTypes, schemas, serviceConfig } from "@/features/people/server/scim/about";
import { listOf, querySchema, type Resource, ScimFault, scimFault, scimJson, shown, URN } from "@/features/people/server/scim/answer";
import { base, KINDS, type Kind, readDirectory, writeDirectory } from "@/features/people/server/scim/directory";
import type { Context } from "@/platform/context";
import { callerOf } from "@/platform/http/api";
import { readBody } from "@/platform/http/body";
import { assertStorable } from "@/platform/input";

const MOST_BYTES = 5_000_000;

/** Answers the company’s directory (SCIM 2.0, RFC 7644). */
export async function scimAnswer(request: Request, path: string): Promise<Response> {
	try {
		const context = await callerOf(request);
		const [kind = "", id, ...more] = path.split("/").map((one) => decodeURIComponent(one));
		assertStorable({ kind, id: id ?? "" });
		if (more.length) throw new ScimFault(404, null, "There is nothing at this address.");
		const about =
			kind === "ServiceProviderConfig"
				? [serviceConfig(base())]
				: kind === "ResourceTypes"
					? resourceTypes(base())
					: kind === "Schemas"
						? schemas(base())
						: null;
		if (about) return aboutAnswer(request, kind, about, id);
		const search = id === ".search" && request.method === "POST";
		if (!KINDS.some((one) => one === kind)) throw new ScimFault(404, null, `There is nothing called ${kind || "that"} here.`);
		if (search) return listOf(await readDirectory(context, kind as Kind), querySchema.parse(await bodyOf(request)));
		return request.method === "GET" ? await readAnswer(context, request, kind as Kind, id) : await writeAnswer(context, request, kind as Kind, id);
	} catch (error) {
		return scimFault(error);
	}
}

function aboutAnswer(request: Request, kind: string, about: readonly object[], id: string | undefined): Response {
	if (request.method !== "GET") throw new ScimFault(404, null, "This can only be read.");
	if (kind === "ServiceProviderConfig") return scimJson(about[0]);
	if (id === undefined) return scimJson({ schemas: [URN.list], totalResults: about.length, startIndex: 1, itemsPerPage: about.length, Resources: about });
	const one = about.find((each) => (each as { id?: string }).id === id);
	if (!one) throw new ScimFault(404, null, `There is no ${id}.`);
	return scimJson(one);
}

async function readAnswer(context: Context, request: Request, kind: Kind, id: string | undefined): Promise<Response> {
	const asked = querySchema.parse(Object.fromEntries(new URL(request.url).searchParams));
	if (id === undefined) return listOf(await readDirectory(context, kind), asked);
	const [one] = await readDirectory(context, kind, id);
	if (!one) throw new ScimFault(404, null, `There is no ${kind === "Users" ? "user" : "group"} ${id}.`);
	if (request.headers.get("if-none-match") === one.meta.version) return new Response(null, { status: 304, headers: { etag: one.meta.version } });
	return scimJson(shown(one, asked), 200, { etag: one.meta.version });
}

const HOW = { POST: "whole", PUT: "whole", PATCH: "patch", DELETE: "gone" } as const;

async function writeAnswer(context: Context, request: Request, kind: Kind, id: string | undefined): Promise<Response> {
	const how = HOW[request.method as keyof typeof HOW];
	if (!how || (request.method === "POST") !== (id === undefined)) throw new ScimFault(404, null, `${kind} can’t be sent ${request.method} here.`);
	const sent = how === "gone" ? null : await bodyOf(request);
	const one = (await writeDirectory(context, { kind, id: id ?? null, how, sent, version: request.headers.get("if-match") })) as Resource | null;
	if (!one) return new Response(null, { status: 204 });
	return scimJson(one, id === undefined ? 201 : 200, { etag: one.meta.version, location: one.meta.location });
}

async function bodyOf(request: Request): Promise<unknown> {
	const text = Buffer.from(await readBody(request, "Send fewer members at once.", MOST_BYTES)).toString("utf8");
	try {
		return assertRead(JSON.parse(text));
	} catch {
		throw new ScimFault(400, "invalidSyntax", "The body isn’t JSON.");
	}
}

/** What is read as JSON and is an object. */
function assertRead(body: unknown): unknown {
	if (typeof body !== "object" || body === null) throw new Error("no object");
	return body;
}
