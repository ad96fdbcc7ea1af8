import { redirect } from "next/navigation";
import { openingBoard } from "@/features/boards/server/openings";
import { signedIn } from "@/platform/http/session";

/** The board somebody opens with; else a rep's own desk, and everybody else's period. */
export default async function Home() {
	const context = await signedIn("/");
	const board = await openingBoard(context);
	if (board) redirect(`/period/boards/${board}`);
	redirect(context.actor.person.role === "rep" ? "/desk" : "/period");
}
