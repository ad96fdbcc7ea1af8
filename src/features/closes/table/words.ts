import { currencySign, fullAmount, shortMoney } from "@/core/money/words";
import type { CloseAccount, CloseStep } from "@/core/period/closeAccount";
import { parseDay } from "@/core/time/day";
import { shortDay } from "@/core/time/words";
import { byCount, plural } from "@/core/words/grammar";
import type { CloseView } from "../server/readClose";

const dayWords = (iso: string) => shortDay(parseDay(iso) ?? 0);

/** `€3.72m`, of minor units. */
export const short = (account: Pick<CloseAccount, "currency">, minor: number): string => shortMoney(minor, account.currency);

/** `€3.72m of €4.06m was won: 92%`. */
export function closeHeadline(account: CloseAccount): string {
	const { won, target } = account;
	if (!target) return `${short(account, won.amount)} was won in ${plural(won.count, "deal")}`;
	return `${short(account, won.amount)} of ${short(account, target)} was won: ${Math.round((100 * won.amount) / target)}%`;
}

/** The step of a kind; every account has all of them. */
export const stepIn = ({ went }: Pick<CloseAccount, "went">, kind: string): CloseStep | undefined => went.find((step) => step.kind === kind);

/** What was pushed out and when, and what became of the first day’s commit. */
export function closeSentences(account: CloseAccount): string[] {
	const { committed, lastDays, outlooks, won } = account;
	const pushed = stepIn(account, "pushed-out");
	const [first] = outlooks;
	return [
		pushed?.count
			? `${short(account, pushed.amount)} in ${plural(pushed.count, "deal")} was pushed out${lastDays.pushed.count ? `, ${short(account, lastDays.pushed.amount)} of it from ${dayWords(lastDays.from)} on` : ""}.`
			: "Nothing was pushed out.",
		committed.said.count
			? `On ${dayWords(account.from)} ${plural(committed.said.count, "deal")} of ${short(account, committed.said.amount)} ${byCount(committed.said.count, "was", "were")} in commit, and ${committed.came.count} came, for ${short(account, committed.came.amount)}.`
			: `On ${dayWords(account.from)} nothing was in commit.`,
		first
			? `The outlook of that day was ${short(account, first.low)} to ${short(account, first.high)}; the result lies ${won.amount < first.low ? "below" : won.amount > first.high ? "above" : "within"} it.`
			: "",
	].filter(Boolean);
}

/** By whom and when it was closed, and how often it was corrected. */
export function closedWords({ kept, shown }: Pick<CloseView, "kept" | "shown">): string {
	const [close] = kept;
	if (!close) return "Nobody has closed it yet: this is how it stands now.";
	const corrections = kept.length - 1;
	const closed = close.by ? `Closed on ${close.on} by ${close.by}` : `Closed by itself on ${close.on}, after five working days`;
	const told =
		shown && shown.correction !== kept.at(-1)?.correction ? ` This is ${shown.correction ? `correction ${shown.correction}` : "how it was closed"}.` : "";
	return `${closed}; ${corrections ? plural(corrections, "correction") : "no corrections"} since.${told}`;
}

/** Where what was open went, in the words of its step. */
export const differenceWords = (account: CloseAccount, one: CloseAccount["differences"][number]): string =>
	`${one.wonFor === null ? "not won" : `won ${one.wonOn ? dayWords(one.wonOn) : ""} for ${short(account, one.wonFor)}`}; chance on ${dayWords(account.from)} ${Math.round(100 * one.chance)}%`;

/** `+€317k`, `−€167k`. */
export const gained = (account: CloseAccount, minor: number): string => `${minor > 0 ? "+" : ""}${short(account, minor)}`;

/** What wins of the last ten working days gave away before them, and all others; null where there is too little to say. */
export function gaveWayWords({ gaveWay: { late, others } }: CloseAccount): string | null {
	const share = ({ before, after }: CloseAccount["gaveWay"]["late"]) => (before ? Math.round((1000 * (before - after)) / before) / 10 : 0);
	if (late.n + others.n === 0) return null;
	const one = (words: string, gave: CloseAccount["gaveWay"]["late"]) => `${words} (${plural(gave.n, "deal")}) ${gave.n ? `${share(gave)}%` : "nothing"}`;
	return `In the two weeks before they were won, deals gave away: ${one("wins of the last ten working days", late)}, ${one("all others", others)}.`;
}

/** The whole account as Markdown; amounts in full. */
export function closeMarkdown(view: Pick<CloseView, "account" | "label" | "whose" | "kept" | "shown">): string {
	const { account } = view;
	const full = (minor: number | null) =>
		minor === null ? "–" : `${minor < 0 ? "−" : ""}${currencySign(account.currency)}${fullAmount(Math.abs(minor), account.currency)}`;
	const cell = (text: string | null) => (text ?? "").replace(/\s+/g, " ").replaceAll("|", "\\|") || "–";
	const table = (heads: readonly string[], right: readonly number[], rows: readonly (readonly string[])[]) =>
		[
			`| ${heads.join(" | ")} |`,
			`|${heads.map((_, i) => (right.includes(i) ? "--:" : "---")).join("|")}|`,
			...rows.map((row) => `| ${row.map(cell).join(" | ")} |`),
		].join("\n");
	const groups = (of: string, list: CloseAccount["reps"]) =>
		table(
			[of, "Target", "Won", "Deals", "Lost", "Open"],
			[1, 2, 3, 4, 5],
			list.map(({ name, target, won, lost, open }) => [name, full(target), full(won.amount), String(won.count), full(lost.amount), full(open.amount)]),
		);
	return [
		`# ${view.whose.label} deals, ${view.label}`,
		`**${closeHeadline(account)}.** ${closeSentences(account).join(" ")}`,
		closedWords(view),
		view.shown?.note ? `> ${view.shown.note.replace(/\n/g, "\n> ")}\n> ${view.shown.noteBy ?? ""}` : "",
		"## Where the open deals went",
		table(
			["Step", "Deals", "Amount"],
			[1, 2],
			account.went.map(({ name, count, amount, leaves }) => [name, String(count), full(leaves ? -amount : amount)]),
		),
		"## Result",
		groups("Rep", account.reps),
		groups("Team", account.teams),
		groups("Product family", account.families),
		"## What made the difference",
		table(
			["Deal", "", "Amount"],
			[2],
			[
				...account.differences.map((one) => [one.name, differenceWords(account, one), full(one.amount)]),
				[`Not open on ${dayWords(account.from)}`, `${plural(account.unforeseen.count, "deal")} won`, full(account.unforeseen.amount)],
			],
		),
		"## Words and outcomes",
		table(
			["Rep", "Commit, won of it", "Calls that held", "Pushed out", "Flags put out"],
			[1, 2, 3, 4],
			account.words.map(({ name, commit, calls, pushed, flags }) => [
				name,
				`${commit.won} of ${commit.of}`,
				`${calls.held} of ${calls.of}`,
				String(pushed.n),
				`${flags.out} of ${flags.of}`,
			]),
		),
	]
		.filter(Boolean)
		.join("\n\n")
		.concat("\n");
}
