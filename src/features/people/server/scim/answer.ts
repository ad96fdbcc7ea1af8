import { createHash } from "node:crypto";
import { filter, parse } from "scim2-parse-filter";
import { z } from "zod";
import { databaseFault } from "@/platform/databaseFault";
import { Fault } from "@/platform/fault";
import { log } from "@/platform/log";

/** SCIM 2.0: RFC 7643 says what things look like, RFC 7644 how they are asked for. */
export const URN = {
	user: "urn:ietf:params:scim:schemas:core:2.0:User",
	group: "urn:ietf:params:scim:schemas:core:2.0:Group",
	list: "urn:ietf:params:scim:api:messages:2.0:ListResponse",
	patch: "urn:ietf:params:scim:api:messages:2.0:PatchOp",
	error: "urn:ietf:params:scim:api:messages:2.0:Error",
} as const;

/** A user or a group as the directory is told of it. */
export interface Resource {
	readonly schemas: readonly string[];
	readonly id: string;
	readonly meta: { readonly resourceType: string; readonly location: string; readonly version: string };
	readonly [attribute: string]: unknown;
}

/** A fault with the reason that RFC 7644, 3.12, has a word for. */
export class ScimFault extends Fault {
	constructor(
		status: ConstructorParameters<typeof Fault>[0],
		readonly scimType: string | null,
		detail: string,
	) {
		super(status, scimType ?? "SCIM", detail);
	}
}

const TYPE = "application/scim+json";
export const scimJson = (body: unknown, status = 200, headers: Readonly<Record<string, string>> = {}): Response =>
	new Response(JSON.stringify(body), { status, headers: { "content-type": TYPE, "cache-control": "no-store", ...headers } });

/** A fault as RFC 7644, 3.12, has it. */
export function scimFault(thrown: unknown): Response {
	const error = databaseFault(thrown);
	const say = (status: number, detail: string, scimType: string | null) =>
		scimJson({ schemas: [URN.error], status: String(status), ...(scimType ? { scimType } : {}), detail }, status);
	if (error instanceof ScimFault) return say(error.status, error.detail, error.scimType);
	// What can’t be for a reason of ours isn’t a fault of form.
	if (error instanceof Fault) return say(error.status === 422 ? 409 : error.status, error.detail, error.status === 409 ? "uniqueness" : null);
	if (error instanceof z.ZodError) return say(400, error.issues.map(({ path, message }) => `${path.join(".")}: ${message}`).join(" "), "invalidValue");
	log.error({ error: String(error) }, "scim failed");
	return say(500, "Something went wrong on the server. Nothing was changed. Try again.", null);
}

/** A resource with its version, which is its content’s, and with its address. */
export function resource(type: "User" | "Group", base: string, attributes: Readonly<Record<string, unknown>> & { readonly id: string }): Resource {
	const version = `W/"${createHash("sha256").update(JSON.stringify(attributes)).digest("base64url").slice(0, 22)}"`;
	const location = `${base}/${type}s/${encodeURIComponent(attributes.id)}`;
	return { schemas: [type === "User" ? URN.user : URN.group], ...attributes, meta: { resourceType: type, location, version } } as Resource;
}

const NONE: ReadonlySet<string> = new Set();

export const querySchema = z.object({
	filter: z.string().max(5000).optional(),
	startIndex: z.coerce.number().int().optional(),
	count: z.coerce.number().int().optional(),
	attributes: z.string().optional(),
	excludedAttributes: z.string().optional(),
});
export type Asked = z.output<typeof querySchema>;
export const MOST = 200;

/** Those of a list that a filter names, a part at a time, counted from 1 (RFC 7644, 3.4.2). */
export function listOf(all: readonly Resource[], asked: Asked): Response {
	const found = asked.filter ? all.filter(by(asked.filter)) : all;
	const start = Math.max(1, asked.startIndex ?? 1);
	const count = Math.min(MOST, Math.max(0, asked.count ?? MOST));
	const Resources = found.slice(start - 1, start - 1 + count).map((one) => shown(one, asked));
	return scimJson({ schemas: [URN.list], totalResults: found.length, startIndex: start, itemsPerPage: Resources.length, Resources });
}

function by(text: string): (one: Resource) => boolean {
	try {
		const fits = filter(small(parse(text)) as ReturnType<typeof parse>);
		return (one) => fits(small(one));
	} catch {
		throw new ScimFault(400, "invalidFilter", `This filter can’t be read: ${text.slice(0, 200)}`);
	}
}

/** The same in small letters, names and texts: neither is told apart by them (RFC 7643, 2.1 and 4.1), whatever a filter is written in. */
function small(of: unknown, key?: string): unknown {
	if (typeof of === "string") return key === "op" ? of : of.toLowerCase();
	if (Array.isArray(of)) return of.map((one) => small(one));
	if (of === null || typeof of !== "object") return of;
	return Object.fromEntries(Object.entries(of).map(([name, value]) => [FILTER_KEYS.has(name) ? name : name.toLowerCase(), small(value, name)]));
}
/** What the parts of a filter are called by the package that reads it. */
const FILTER_KEYS: ReadonlySet<string> = new Set(["attrPath", "compValue", "valFilter"]);

/** What of a resource was asked for; what names it is always there (RFC 7644, 3.9). */
export function shown(one: Resource, { attributes, excludedAttributes }: Asked): Record<string, unknown> {
	const names = (text: string) => new Set(text.split(",").map((name) => (name.trim().split(/[.[]/, 1)[0] ?? "").toLowerCase()));
	const [only, without] = [attributes && names(attributes), excludedAttributes && names(excludedAttributes)];
	const kept = ([name]: [string, unknown]) =>
		["schemas", "id"].includes(name) || ((!only || only.has(name.toLowerCase())) && !(without || NONE).has(name.toLowerCase()));
	return Object.fromEntries(Object.entries(one).filter(kept));
}
