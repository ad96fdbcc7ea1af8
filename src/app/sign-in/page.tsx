import { redirect } from "next/navigation";
import { SignInForm } from "@/features/people/ui/signIn/SignInForm";
import { currentContext } from "@/platform/http/session";
import { signInAction } from "../actions/session";

export const metadata = { title: "Sign in" };

export default async function SignInPage({ searchParams }: { searchParams: Promise<{ to?: string }> }) {
	if (await currentContext()) redirect("/");
	const { to } = await searchParams;
	return <SignInForm action={signInAction} to={typeof to === "string" ? to : ""} />;
}
