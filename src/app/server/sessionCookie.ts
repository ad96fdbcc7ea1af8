import { cookies, headers } from "next/headers";
import type { Origin } from "@/features/people/server/signIn";
import { SOURCE_HEADER } from "@/platform/http/source";
import { SESSION_COOKIE } from "@/platform/sessions";

/** Where a request comes from. */
export const originOf = (head: Headers): Origin => ({ source: head.get(SOURCE_HEADER) ?? "direct", agent: head.get("user-agent") ?? "" });

/** Gives the browser a session that was opened. */
export async function keepSession({ token, expires }: { token: string; expires: Date }): Promise<void> {
	const secure = (await headers()).get("x-forwarded-proto") === "https";
	(await cookies()).set(SESSION_COOKIE, token, { httpOnly: true, sameSite: "lax", path: "/", expires, secure });
}
