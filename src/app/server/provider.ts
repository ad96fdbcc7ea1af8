import { endByProvider } from "@/features/people/server/provider/ended";
import { comeBackFrom, leaveFor, NoEntry } from "@/features/people/server/provider/flow";
import { Fault } from "@/platform/fault";
import { cookieOf, faultResponse } from "@/platform/http/api";
import { readBody } from "@/platform/http/body";
import { SOURCE_HEADER } from "@/platform/http/source";
import { demandLimit } from "@/platform/limit";
import { SESSION_COOKIE } from "@/platform/sessions";
import { originOf } from "./origin";

/** Holds, sealed, what a browser needs on its way back. */
const DOOR = "porch_lamp_door";
const PATH = "/sign-in/provider";

/** Sends a browser to the company’s sign-in. */
export async function leaveAnswer(request: Request): Promise<Response> {
	return entering(async () => {
		const { url, door } = await leaveFor(new URL(request.url).searchParams.get("to") ?? "");
		return away(url, [cookie(DOOR, door, { path: PATH, seconds: 600, request })]);
	}, request);
}

/** Takes one that comes back: in, or to the page of signing in with the reason why not. */
export async function comeBackAnswer(request: Request): Promise<Response> {
	return entering(async () => {
		await demandLimit("company sign-in", `back ${originOf(request.headers).source}`);
		const { token, expires, to } = await comeBackFrom(new URL(request.url).search, cookieOf(request, DOOR), originOf(request.headers));
		const seconds = Math.floor((expires.getTime() - Date.now()) / 1000);
		return away(to, [cookie(SESSION_COOKIE, token, { path: "/", seconds, request }), cookie(DOOR, "", { path: PATH, seconds: 0, request })]);
	}, request);
}

/** Is told by the company’s sign-in that a session there has ended (OpenID Connect Back-Channel Logout 1.0). */
export async function endedAnswer(request: Request): Promise<Response> {
	try {
		await demandLimit("company sign-in", `ended ${request.headers.get(SOURCE_HEADER) ?? "direct"}`);
		const body = new URLSearchParams(Buffer.from(await readBody(request, "Send the token alone.", 100_000)).toString("utf8"));
		await endByProvider(body.get("logout_token") ?? "");
		return new Response(null, { status: 200, headers: { "cache-control": "no-store" } });
	} catch (error) {
		return faultResponse(error);
	}
}

async function entering(work: () => Promise<Response>, request: Request): Promise<Response> {
	try {
		return await work();
	} catch (error) {
		const why = error instanceof NoEntry ? error.why : error instanceof Fault && error.status === 503 ? "down" : null;
		if (why === null) return faultResponse(error);
		return away(`/sign-in?why=${why}`, [cookie(DOOR, "", { path: PATH, seconds: 0, request })]);
	}
}

const away = (location: string, cookies: readonly string[]): Response => {
	const headers = new Headers({ location, "cache-control": "no-store" });
	for (const one of cookies) headers.append("set-cookie", one);
	return new Response(null, { status: 302, headers });
};

function cookie(name: string, value: string, { path, seconds, request }: { path: string; seconds: number; request: Request }): string {
	const secure = request.headers.get("x-forwarded-proto") === "https" ? "; Secure" : "";
	return `${name}=${encodeURIComponent(value)}; Path=${path}; Max-Age=${seconds}; HttpOnly; SameSite=Lax${secure}`;
}
