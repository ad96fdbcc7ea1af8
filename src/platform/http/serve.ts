import { Fault, notFound } from "../fault";
import { assertStorable } from "../input";
import { log } from "../log";
import { requestScope } from "../requestScope";
import { authorize } from "../rights";
import { callerOf, faultResponse, jsonBody, problemResponse } from "./api";
import type { ApiRoute } from "./apiRoute";

/** Answers one call: who asks, what they send, the work, the answer. */
export async function serve(call: ApiRoute, request: Request, params: Readonly<Record<string, string>>): Promise<Response> {
	const began = performance.now();
	const scope = requestScope();
	if (scope) scope.route = `/api/v1${call.path}`;
	const answer = await answerTo(call, request, params);
	log.info({ method: request.method, path: call.path, status: answer.status, ms: Math.round(performance.now() - began) }, "call");
	return answer;
}

async function answerTo(call: ApiRoute, request: Request, params: Readonly<Record<string, string>>): Promise<Response> {
	try {
		const once = request.headers.get("idempotency-key")?.slice(0, 200);
		const context = { ...(await callerOf(request)), ...(once ? { once } : {}) };
		authorize(context.actor, { ...call.by, name: call.by.name, right: call.by.right, writes: call.by.kind === "command" });
		const asked = Object.fromEntries(new URL(request.url).searchParams);
		assertStorable({ ...asked, ...params });
		const query = call.query?.parse(asked) ?? {};
		const body = call.body ? call.body.parse(await jsonBody(request)) : undefined;
		const version = call.ifMatch ? versionSeen(request.headers.get("if-match")) : Number.NaN;
		const answer = await call.run(context, { query: query as never, body: body as never, params, version, request });
		if (answer instanceof Response) return answer;
		return call.status === 204 ? new Response(null, { status: 204 }) : Response.json(answer, { status: call.status });
	} catch (error) {
		return faultResponse(error);
	}
}

interface Route {
	readonly call: ApiRoute;
	readonly segments: readonly string[];
}

/** The handler of all calls: finds the one that a method and an address mean, and answers it. 404 and 405 say what there is. */
export function handlerOf(calls: readonly ApiRoute[]): (request: Request, path: readonly string[]) => Promise<Response> {
	const routes = calls.map((call): Route => ({ call, segments: call.path.split("/").filter(Boolean) }));
	return async (request, path) => {
		const here = routes.flatMap(({ call, segments }) => {
			const params = matched(segments, path);
			return params ? [{ call, params }] : [];
		});
		const found = here.find(({ call }) => call.method === request.method.toLowerCase());
		if (found) return serve(found.call, request, found.params);
		if (!here.length) return faultResponse(notFound("call at", `/${path.join("/")}`));
		const allow = here.map(({ call }) => call.method.toUpperCase()).join(", ");
		const refused = problemResponse(405, "Method not allowed", `/${path.join("/")} takes ${allow}, not ${request.method}.`);
		refused.headers.set("allow", allow);
		return refused;
	};
}

/** The variable parts of a path that fits, decoded; null for one that doesn't. Throws nothing: what can't be decoded fits nothing. */
function matched(segments: readonly string[], path: readonly string[]): Record<string, string> | null {
	if (segments.length !== path.length) return null;
	const params: Record<string, string> = {};
	for (const [i, segment] of segments.entries()) {
		const part = path[i] as string;
		const name = /^\{(\w+)\}$/.exec(segment)?.[1];
		if (name) params[name] = part;
		else if (segment !== part) return null;
	}
	return params;
}

/** The version that If-Match names. @throws Fault 428 where none is sent, 400 for what is none */
function versionSeen(match: string | null): number {
	if (!match) throw new Fault(428, "Which version?", "Send the versionId that you saw, of what you change, in the header If-Match.");
	const version = Number(match.replace(/^W\//, "").replaceAll('"', ""));
	if (!Number.isInteger(version)) throw new Fault(400, "Bad request", "If-Match must be the versionId that was seen.");
	return version;
}
