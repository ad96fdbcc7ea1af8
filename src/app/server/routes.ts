import { problemResponse } from "@/platform/http/api";
import { apiAnswer, dealRowsAnswer, fileAnswer, healthAnswer, openApiAnswer, readyAnswer, riverAnswer, sheetAnswer, tableAnswer } from "./answers";
import { calendarAnswer, feedAnswer } from "./calendar";
import { inboundMailAnswer } from "./inbound";
import { liveAnswer } from "./live";
import { comeBackAnswer, endedAnswer, leaveAnswer } from "./provider";
import { scimAnswer } from "./scim";
import { waitingFileAnswer } from "./waitingFile";
import { weeklyFileAnswer } from "./weekly";

type Method = "GET" | "POST" | "PATCH" | "PUT" | "DELETE";

interface Route {
	readonly methods: readonly Method[];
	readonly path: RegExp;
	readonly answer: (request: Request, parts: readonly string[]) => Response | Promise<Response>;
}

const READ = ["GET"] as const;
const SEND = ["POST"] as const;
/** Everything the server answers that isn’t a page, in one table. Pages are the framework’s. A new one is one line here. */
export const ROUTES: readonly Route[] = [
	{ methods: READ, path: /^\/healthz$/, answer: healthAnswer },
	{ methods: READ, path: /^\/readyz$/, answer: readyAnswer },
	{ methods: READ, path: /^\/live$/, answer: liveAnswer },
	{ methods: READ, path: /^\/sign-in\/provider$/, answer: leaveAnswer },
	{ methods: READ, path: /^\/sign-in\/provider\/back$/, answer: comeBackAnswer },
	{ methods: SEND, path: /^\/sign-in\/provider\/ended$/, answer: endedAnswer },
	{ methods: SEND, path: /^\/inbound\/mail$/, answer: inboundMailAnswer },
	{ methods: READ, path: /^\/calendar\/([\w-]+)\.ics$/, answer: (request, [token = ""]) => feedAnswer(request, token) },
	{ methods: READ, path: /^\/calendar\/(task|activity)\/([^/]+)\.ics$/, answer: (request, [kind = "", id = ""]) => calendarAnswer(request, kind, id) },
	{ methods: READ, path: /^\/sheet\/([^/]+)$/, answer: (request, [id = ""]) => sheetAnswer(request, id) },
	{ methods: READ, path: /^\/deals\/rows$/, answer: dealRowsAnswer },
	{ methods: READ, path: /^\/changes\/river$/, answer: riverAnswer },
	{ methods: READ, path: /^\/table\/(\w+)$/, answer: (request, [key = ""]) => fileAnswer(request, key) },
	{ methods: SEND, path: /^\/table$/, answer: tableAnswer },
	{ methods: SEND, path: /^\/setup\/weekly$/, answer: weeklyFileAnswer },
	{ methods: READ, path: /^\/setup\/feeds\/files\/([\w-]+)$/, answer: waitingFileAnswer },
	{ methods: ["GET", "POST", "PUT", "PATCH", "DELETE"], path: /^\/scim\/v2\/(.+)$/, answer: (request, [path = ""]) => scimAnswer(request, path) },
	{ methods: READ, path: /^\/api\/v1\/openapi\.json$/, answer: openApiAnswer },
	{ methods: ["GET", "POST", "PATCH", "PUT", "DELETE"], path: /^\/api\/v1\/(.+)$/, answer: (request, [path = ""]) => apiAnswer(request, path.split("/")) },
];

/** The answer to an address that isn’t a page’s, a wrong method included (405, with `Allow`); null for a page. */
export async function routeAnswer(method: string, url: string, request: () => Request): Promise<Response | null> {
	const [path = ""] = url.split("?", 1);
	for (const route of ROUTES) {
		const found = route.path.exec(path);
		if (!found) continue;
		const asked = method === "HEAD" ? "GET" : method;
		if (route.methods.some((one) => one === asked)) return route.answer(request(), found.slice(1));
		const allow = [...route.methods, ...(route.methods.includes("GET") ? ["HEAD"] : []), "OPTIONS"].join(", ");
		if (method === "OPTIONS") return new Response(null, { status: 204, headers: { allow } });
		const refused = problemResponse(405, "Method not allowed", `${path} takes ${allow}, not ${method}.`);
		refused.headers.set("allow", allow);
		return refused;
	}
	return null;
}
