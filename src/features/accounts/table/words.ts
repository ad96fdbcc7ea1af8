import { parseDay } from "@/core/time/day";
import { shortDay } from "@/core/time/words";
import type { AccountPage } from "../server/accountPageView";

const dayWords = (iso: string) => shortDay(parseDay(iso) ?? 0);

/** What a buying role is called; an empty text for one that isn’t known. */
export const roleWords = (role: string | null): string =>
	({ decision_maker: "signs", champion: "wants it", influencer: "has a say", user: "will use it", blocker: "is against it" })[role ?? ""] ?? "";

/** What stands out about an account, in a sentence: who waits, how its buying goes, and whom nobody knows. */
export function accountHeadline({ waiting, bought, signatoryKnown, lastContact, deals, customerSince }: AccountPage): string {
	const { trend } = bought;
	const said = [
		waiting && `${waiting.side === "they" ? "They wait for us" : "We wait for them"} since ${dayWords(waiting.since)}`,
		lastContact === null && "Nobody has spoken to them in 365 days",
		trend === 0 && "They bought nothing in the last 365 days",
		trend !== null && trend > 0 && `Buying is ${trend < 1 ? "down" : "up"} to ${Math.round(100 * trend)}% of the year before`,
		trend === null && customerSince !== null && bought.last365 === 0 && "They bought nothing in two years",
		signatoryKnown === false && "Nobody of ours knows who signs",
		signatoryKnown === null && deals.some(({ status }) => status === "open") && "Nobody is named who signs",
	].filter((one): one is string => Boolean(one));
	if (!said.length) return "Nobody waits, and nothing stands out.";
	return `${said.map((one, i) => (i === 0 ? one : one.charAt(0).toLowerCase() + one.slice(1))).join("; ")}.`;
}
