import type { Endpoint } from "@/features/contract";
import { Fault } from "../fault";
import { log } from "../log";
import { callerOf, faultResponse, jsonBody } from "./api";

/** Routes without a variable part have no params. */
type Handler = (request: Request, route: { params?: Promise<Record<string, string>> }) => Promise<Response>;

/** The route handler of an endpoint: who calls, what they send, the use case, the answer. */
export function serve(endpoint: Endpoint): Handler {
	return async (request, route) => {
		const began = performance.now();
		const answer = await answerTo(endpoint, request, route);
		log.info({ method: request.method, path: endpoint.path, status: answer.status, ms: Math.round(performance.now() - began) }, "call");
		return answer;
	};
}

async function answerTo(endpoint: Endpoint, request: Request, route: Parameters<Handler>[1]): Promise<Response> {
	try {
		const context = await callerOf(request);
		const query = endpoint.query?.parse(Object.fromEntries(new URL(request.url).searchParams)) ?? {};
		const body = endpoint.body ? endpoint.body.parse(await jsonBody(request)) : undefined;
		const params = Object.fromEntries(Object.entries((await route.params) ?? {}).map(([name, value]) => [name, decodeURIComponent(value)]));
		const match = request.headers.get("if-match") ?? "";
		if (endpoint.ifMatch && !match) throw new Fault(428, "Which version?", "Send the versionId of the deal as you saw it in the header If-Match.");
		const answer = await endpoint.run(context, { query: query as never, body: body as never, params, match });
		return endpoint.status === 204 ? new Response(null, { status: 204 }) : Response.json(answer, { status: endpoint.status });
	} catch (error) {
		return faultResponse(error);
	}
}
