import { z } from "zod";
import type { Context } from "../context";
import type { Right } from "../rights";

type Json = Record<string, unknown>;

/** What a call is given: its query and body as their schemas read them, the variable parts of its address, and the version named by If-Match. */
export interface Asked<Q = never, B = never> {
	readonly query: Q;
	readonly body: B;
	readonly params: Readonly<Record<string, string>>;
	/** the version that If-Match names; NaN where a call asks for none */
	readonly version: number;
	readonly request: Request;
}

/** A command, a query or a lookup, as far as its right is concerned. */
export interface Doer {
	readonly name: string;
	readonly right: Right;
	readonly kind: "command" | "query" | "lookup";
}

/** One route of the API. The route handler, the OpenAPI document and the tests are made from the list of them. */
export interface ApiRoute {
	/** names it in the OpenAPI document */
	readonly id: string;
	readonly method: "get" | "post" | "put" | "patch" | "delete";
	readonly path: string;
	readonly summary: string;
	readonly query?: z.ZodObject;
	readonly body?: z.ZodType;
	/** the answer's status when all goes well */
	readonly status: number;
	readonly answer?: z.ZodType;
	/** what is to be changed is named by the header If-Match */
	readonly ifMatch?: boolean;
	/** what does the work: its right is checked before anything that was sent is looked at */
	readonly by: Doer;
	/** for what isn't JSON: how it is described */
	readonly file?: { readonly describe: (schemaOf: (schema: z.ZodType) => Json) => Json };
	/** The answer; a Response is handed on as it is. */
	readonly run: (context: Context, asked: Asked) => unknown;
}

interface Typed<Q extends z.ZodObject, B extends z.ZodType> extends Omit<ApiRoute, "run" | "query" | "body"> {
	readonly query?: Q;
	readonly body?: B;
	readonly run: (context: Context, asked: Asked<z.output<Q>, z.output<B>>) => unknown;
}

/**
 * Makes a route of the API, typed by its schemas.
 *
 * @example apiRoute({ id: "listMarks", method: "get", path: "/marks", summary: "…", status: 200, answer: list(markSchema), query: z.object(paging), run })
 */
export const apiRoute = <Q extends z.ZodObject = z.ZodObject, B extends z.ZodType = z.ZodType>(given: Typed<Q, B>): ApiRoute => given as unknown as ApiRoute;

/** An ISO day of a query. */
export const isoDay = z.iso.date("This must be an ISO day, such as 2026-11-24.");

/** What lists take: where to go on, and how many at the most. */
export const paging = {
	cursor: z.string().optional().meta({ description: "`next` of the page before" }),
	limit: z.coerce.number().int().min(1).max(1000).default(200),
};

/** Whose deals a call is about. */
export const whose = { team: z.string().optional(), owner: z.string().optional() };

/** The answer of a list. */
export const list = <T extends z.ZodType>(item: T) => z.object({ items: z.array(item), next: z.string().nullable() });
