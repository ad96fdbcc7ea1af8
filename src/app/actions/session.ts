"use server";
import { cookies, headers } from "next/headers";
import { redirect } from "next/navigation";
import { leaveBoth } from "@/features/people/server/provider/flow";
import { signIn, signInSchema, signOut } from "@/features/people/server/signIn";
import { databaseFault } from "@/platform/databaseFault";
import { Fault } from "@/platform/fault";
import { safePath } from "@/platform/http/safePath";
import { SESSION_COOKIE } from "@/platform/sessions";
import { originOf } from "../server/origin";
import { keepSession } from "../server/sessionCookie";

export async function signOutAction(): Promise<void> {
	const jar = await cookies();
	const token = jar.get(SESSION_COOKIE)?.value;
	const elsewhere = token ? await signOut(token) : null;
	jar.delete(SESSION_COOKIE);
	redirect((elsewhere && (await leaveBoth(elsewhere))) || "/sign-in");
}

export interface SignInState {
	readonly email: string;
	readonly error: string | null;
}

export async function signInAction(_: SignInState, form: FormData): Promise<SignInState> {
	const email = String(form.get("email") ?? "").slice(0, 400);
	const parsed = signInSchema.safeParse({ email, password: form.get("password") ?? "", code: form.get("code") || undefined });
	if (!parsed.success) return { email, error: parsed.error.issues.map((issue) => issue.message).join(" ") };
	try {
		const opened = await signIn(parsed.data, originOf(await headers()));
		// Signed in again, whatever this browser had open before ends.
		const before = (await cookies()).get(SESSION_COOKIE)?.value;
		if (before) await signOut(before);
		await keepSession(opened);
	} catch (thrown) {
		const error = databaseFault(thrown);
		if (error instanceof Fault) return { email, error: error.detail };
		throw error;
	}
	const to = String(form.get("to") ?? "");
	redirect(safePath(to));
}
