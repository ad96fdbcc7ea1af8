import { cookies } from "next/headers";
import { panel } from "@/platform/panel";
import { SESSION_COOKIE, tokenHash } from "@/platform/sessions";
import { readOwnSignIn } from "../server/ownSignIn";
import { SignInPanel } from "../ui/SignInPanel";

export const signInPanel = panel({
	key: "signin",
	label: "My sign-in",
	group: "mine",
	about: "Your password, one-time codes, passkeys, and where you are signed in.",
	right: "ownSignIn",
	show: async (context) => {
		const token = (await cookies()).get(SESSION_COOKIE)?.value;
		return <SignInPanel view={await readOwnSignIn(context, token ? tokenHash(token) : null)} zone={context.organisation.company.rules.zone.name} />;
	},
});
