import { cookies } from "next/headers";
import { redirect } from "next/navigation";
import { cache } from "react";
import type { Context } from "../context";
import { SESSION_COOKIE, sessionContext } from "../sessions";

/** The context of whoever is signed in, once a request; null when nobody is. */
export const currentContext = cache(async (): Promise<Context | null> => {
	const token = (await cookies()).get(SESSION_COOKIE)?.value;
	return token ? sessionContext(token) : null;
});

/** The same, sending visitors to the sign-in and back to where they wanted to go. */
export async function signedIn(back: string): Promise<Context> {
	const context = await currentContext();
	if (!context) redirect(`/sign-in?to=${encodeURIComponent(back)}`);
	return context;
}
