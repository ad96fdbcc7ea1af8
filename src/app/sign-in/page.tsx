import { redirect } from "next/navigation";
import { passkeysHere } from "@/features/people/server/passkeys/enter";
import { providerOn } from "@/features/people/server/provider/settings";
import { WHY } from "@/features/people/table/why";
import { SignInForm } from "@/features/people/ui/signIn/SignInForm";
import { currentContext } from "@/platform/http/session";
import { askForPasskeyAction, enterByPasskeyAction } from "../actions/passkey";
import { signInAction } from "../actions/session";

export const metadata = { title: "Sign in" };

export default async function SignInPage({ searchParams }: { searchParams: Promise<{ to?: string; why?: string; password?: string }> }) {
	if (await currentContext()) redirect("/");
	const { to, why, password } = await searchParams;
	const set = await providerOn();
	const provider = set && { name: set.name, passwords: set.passwords || password !== undefined };
	const said = typeof why === "string" ? (WHY[why] ?? null) : null;
	const origin = await passkeysHere();
	const passkeys = origin === null ? null : { ask: askForPasskeyAction, enter: enterByPasskeyAction, origin };
	return <SignInForm action={signInAction} to={typeof to === "string" ? to : ""} provider={provider} passkeys={passkeys} why={said} />;
}
