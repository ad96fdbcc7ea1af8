"use server";
import { headers } from "next/headers";
import { ZodError } from "zod";
import { type Beginning, begin, type HasBegun } from "@/features/begin/server/firstStart";
import { setPasswordByLink, setPasswordSchema } from "@/features/people/server/passwordLinks";
import { signIn } from "@/features/people/server/signIn";
import { Fault } from "@/platform/fault";
import { currentContext } from "@/platform/http/session";
import { demandLimit } from "@/platform/limit";
import { originOf } from "../server/origin";
import { keepSession } from "../server/sessionCookie";

/** What came of it: a refusal in words, or links that others set their passwords by. */
export type Begun = { readonly error: string } | HasBegun;

const refused = (error: unknown): { error: string } => {
	if (error instanceof Fault) return { error: error.detail };
	if (error instanceof ZodError) return { error: [...new Set(error.issues.map((issue) => issue.message))].join(" ") };
	throw error;
};

/** Begins, and signs the first person in. */
export async function beginAction(given: Beginning): Promise<Begun> {
	try {
		const begun = await begin(await currentContext(), given);
		await keepSession(await signIn({ email: given.first.email, password: given.first.password }, originOf(await headers())));
		return begun;
	} catch (error) {
		return refused(error);
	}
}

export async function setPasswordAction(given: { token: string; password: string }): Promise<{ readonly error: string | null }> {
	try {
		await demandLimit("password links", originOf(await headers()).source);
		await setPasswordByLink(setPasswordSchema.parse(given));
		return { error: null };
	} catch (error) {
		return refused(error);
	}
}
