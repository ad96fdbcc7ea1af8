import { apiAnswer, dealRowsAnswer, fileAnswer, healthAnswer, openApiAnswer, riverAnswer, sheetAnswer, tableAnswer } from "./answers";
import { calendarAnswer, feedAnswer } from "./calendar";
import { inboundMailAnswer } from "./inbound";
import { liveAnswer } from "./live";

interface Direct {
	readonly methods: readonly string[];
	readonly path: RegExp;
	readonly answer: (request: Request, parts: readonly string[]) => Response | Promise<Response>;
}

const READ = ["GET"];
/** What the server answers itself, without the framework's long way to a route file. */
const DIRECT: readonly Direct[] = [
	{ methods: READ, path: /^\/healthz$/, answer: healthAnswer },
	{ methods: READ, path: /^\/live$/, answer: liveAnswer },
	{ methods: ["POST"], path: /^\/inbound\/mail$/, answer: inboundMailAnswer },
	{ methods: READ, path: /^\/calendar\/([\w-]{20,60})\.ics$/, answer: (request, [token = ""]) => feedAnswer(request, token) },
	{ methods: READ, path: /^\/calendar\/(task|activity)\/([^/]+)\.ics$/, answer: (request, [kind = "", id = ""]) => calendarAnswer(request, kind, id) },
	{ methods: READ, path: /^\/sheet\/([^/]+)$/, answer: (request, [id = ""]) => sheetAnswer(request, id) },
	{ methods: READ, path: /^\/deals\/rows$/, answer: dealRowsAnswer },
	{ methods: READ, path: /^\/changes\/river$/, answer: riverAnswer },
	{ methods: READ, path: /^\/table\/(\w+)$/, answer: (request, [key = ""]) => fileAnswer(request, key) },
	{ methods: ["POST"], path: /^\/table$/, answer: tableAnswer },
	{ methods: READ, path: /^\/api\/v1\/openapi\.json$/, answer: openApiAnswer },
	{ methods: ["GET", "POST", "PATCH", "DELETE", "PUT"], path: /^\/api\/v1\/(.+)$/, answer: (request, [path = ""]) => apiAnswer(request, path.split("/")) },
];

/** The answer to an address that isn't a page's; null for one that is. */
export async function directAnswer(method: string, url: string, request: () => Request): Promise<Response | null> {
	const [path = ""] = url.split("?", 1);
	for (const route of DIRECT) {
		const found = route.methods.includes(method) ? route.path.exec(path) : null;
		if (found) return route.answer(request(), found.slice(1));
	}
	return null;
}
