import type { IncomingMessage, ServerResponse } from "node:http";
import compression from "compression";
import next from "next";
import { readyAnswer } from "@/app/server/answers";
import { routeAnswer } from "@/app/server/routes";
import { config } from "@/config/config";
import { demandOwnOrigin, faultResponse, problemResponse } from "@/platform/http/api";
import { newId } from "@/platform/ids";
import { log } from "@/platform/log";
import { withinRequest } from "@/platform/requestScope";
import { doors, type Ends } from "./doors";
import { secured } from "./headers";
import { countRequest, measureHere } from "./metrics";
import { headersOf, requestOf, send } from "./web";

/**
 * How it ends when the program stops, and when another takes over, which answers everybody else by then: idle connections
 * stay until a proxy has seen that nothing new is taken here, and sends no more along them.
 */
const ENDS: Readonly<Record<string, Ends>> = { SIGTERM: { patience: 4000, idle: 1500 }, SIGUSR2: { patience: 60_000, idle: 5000 } };
/** so often a process that isn’t ready yet looks whether it is, in ms */
const LOOKS = 200;

/** Answers on a port, and once it is ready at a socket that was `handed` over: what is plain data at once, pages by the framework. */
export async function serve(port: number, handed: boolean): Promise<void> {
	const hostname = "127.0.0.1";
	const pages = next({ dev: false, dir: process.cwd(), hostname, port });
	await pages.prepare();
	const page = pages.getRequestHandler();
	const answer = async (request: IncomingMessage, response: ServerResponse) => {
		secured(request, response);
		if (!sound(request.url ?? "/"))
			return send(problemResponse(400, "Bad request", "This address isn’t valid: something in it isn’t encoded as it should be."), response);
		const refused = refusalOf(request);
		if (refused) return send(refused, response);
		const direct = await routeAnswer(request.method ?? "GET", request.url ?? "/", () => requestOf(request));
		if (direct) return send(direct, response, request.method === "HEAD");
		if (writes(request)) {
			try {
				demandOwnOrigin({ headers: headersOf(request) });
			} catch (error) {
				return send(faultResponse(error), response);
			}
			asAsked(request, response);
		}
		return page(request, response);
	};
	if (config().PORCH_LAMP_METRICS) measureHere();
	const at = doors((request, response) => {
		const scope = { id: newId(), route: routeOf(request.url) };
		const began = performance.now();
		response.setHeader("x-request-id", scope.id);
		response.once("close", () => countRequest(scope.route, request.method ?? "", response.statusCode, (performance.now() - began) / 1000));
		const within = (work: () => void) => withinRequest(scope, () => packed(request, response, work));
		within(() => {
			answer(request, response).catch((error: unknown) => {
				log.error({ error: String(error), path: pathOf(request.url), stack: error instanceof Error ? error.stack : undefined }, "request failed");
				if (!response.headersSent) response.statusCode = 500;
				response.end();
			});
		});
	});
	at.listen(port, hostname);
	for (const [signal, ends] of Object.entries(ENDS)) process.once(signal, () => at.close(ends));
	if (!handed) return;
	while (!(await readyAnswer()).ok) await new Promise((resolve) => setTimeout(resolve, LOOKS));
	at.listenAsHanded();
}

const METHODS = ["GET", "HEAD", "POST", "PUT", "PATCH", "DELETE", "OPTIONS"];
const writes = ({ method }: IncomingMessage) => method !== "GET" && method !== "HEAD" && method !== "OPTIONS";

/** What is refused before anybody looks at it: a method that nothing here takes, and a host that is none. */
function refusalOf({ method = "", headers }: IncomingMessage): Response | null {
	if (!METHODS.includes(method)) {
		const refused = problemResponse(405, "Method not allowed", `${method} isn’t supported.`);
		refused.headers.set("allow", METHODS.join(", "));
		return refused;
	}
	if (headers.host !== undefined && !URL.canParse(`http://${headers.host}/`)) return problemResponse(400, "Bad request", "The header Host names no host.");
	return null;
}

/** A client that calls an action by hand may send what can't be read: that is its fault, and isn't said to be ours. Actions themselves answer in words. */
function asAsked(request: IncomingMessage, response: ServerResponse): void {
	if (!request.headers["next-action"]) return;
	const writeHead = response.writeHead.bind(response);
	response.writeHead = ((status: number, ...more: never[]) => writeHead(status === 500 ? 400 : status, ...more)) as typeof response.writeHead;
}

/** What kind of page or file an address is of, without what names a deal or a person in it; calls of the API say theirs themselves. */
export function routeOf(url: string | undefined): string {
	const [, first = "", second] = (pathOf(url) ?? "/").split("/");
	if (!KNOWN.has(first)) return first === "" ? "/" : first.startsWith("_next") ? "/_next" : "other";
	return second === undefined ? `/${first}` : `/${first}/…`;
}
const KNOWN = new Set(
	"accounts api begin calendar changes deals desk evidence healthz inbound live patterns people period readyz rounds scim set-password setup sheet sign-in table tasks".split(
		" ",
	),
);

/** An address without its query, which may hold what is nobody's business. */
const pathOf = (url: string | undefined) => (url ?? "/").split("?", 1)[0];

/** Whether the path of an address can be decoded, and holds nothing that no name has. */
function sound(url: string): boolean {
	try {
		let path = pathOf(url) ?? "/";
		// What was encoded twice must be readable twice.
		for (let times = 0; times < 3 && path.includes("%"); times++) path = decodeURIComponent(path);
		return !path.includes("\0");
	} catch {
		return false;
	}
}

/** Packing pays where a wire is narrow: not for whoever is on this machine, a proxy in front included, which packs by itself. */
const compress = compression({ level: 4, threshold: 2048 });
function packed(request: IncomingMessage, response: ServerResponse, then: () => void): void {
	if (/^(::1|(::ffff:)?127\.)/.test(request.socket.remoteAddress ?? "")) then();
	else compress(request as never, response as never, then);
}
