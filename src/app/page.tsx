import { redirect } from "next/navigation";
import { signedIn } from "@/platform/http/session";

export default async function Home() {
	const context = await signedIn("/");
	redirect(context.actor.person.role === "rep" ? "/desk" : "/period");
}
