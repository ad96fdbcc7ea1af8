import { cookies, headers } from "next/headers";
import { SESSION_COOKIE } from "@/platform/sessions";

/** Gives the browser a session that was opened. */
export async function keepSession({ token, expires }: { token: string; expires: Date }): Promise<void> {
	const secure = (await headers()).get("x-forwarded-proto") === "https";
	(await cookies()).set(SESSION_COOKIE, token, { httpOnly: true, sameSite: "lax", path: "/", expires, secure });
}
