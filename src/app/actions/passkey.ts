"use server";
import { cookies, headers } from "next/headers";
import { askForPasskey, enterByPasskey, enterSchema } from "@/features/people/server/passkeys/enter";
import { signOut } from "@/features/people/server/signIn";
import { databaseFault } from "@/platform/databaseFault";
import { Fault } from "@/platform/fault";
import { safePath } from "@/platform/http/safePath";
import { SESSION_COOKIE } from "@/platform/sessions";
import { originOf } from "../server/origin";
import { keepSession } from "../server/sessionCookie";

/** What a device is asked, to sign somebody in. */
export const askForPasskeyAction = async () => saying(askForPasskey);

/** Lets in who shows a passkey, and says where they wanted to go. */
export async function enterByPasskeyAction(given: { sealed: string; response: object; to: string }) {
	return saying(async () => {
		const parsed = enterSchema.safeParse(given);
		if (!parsed.success) throw new Fault(401, "Not signed in", "This isn’t a device’s answer. Try again.");
		const opened = await enterByPasskey(parsed.data, originOf(await headers()));
		const before = (await cookies()).get(SESSION_COOKIE)?.value;
		if (before) await signOut(before);
		await keepSession(opened);
		return { to: safePath(String(given.to ?? "")) };
	});
}

async function saying<T>(work: () => Promise<T>): Promise<T | { error: string }> {
	try {
		return await work();
	} catch (thrown) {
		const error = databaseFault(thrown);
		if (error instanceof Fault) return { error: error.detail };
		throw error;
	}
}
