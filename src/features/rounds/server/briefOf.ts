import { currencySign, fullAmount } from "@/core/money/words";
import { parseDay } from "@/core/time/day";
import { shortDay } from "@/core/time/words";
import { byCount, labelled, plural, sentence } from "@/core/words/grammar";
import type { SheetView } from "@/features/sheet";
import type { PromiseView } from "./promises";

/** A line of a brief, with where it stands. */
export interface BriefLine {
	readonly words: string;
	/** the record it is made from, with its day where it has one */
	readonly source: string;
}

export interface BriefPart {
	readonly heading: string;
	readonly lines: readonly BriefLine[];
	/** what is said where there is nothing */
	readonly none: string;
}

const QUOTED = 5;
const dayNumberOf = (iso: string): number => parseDay(iso) ?? 0;
const QUESTIONS = 6;
const day = (iso: string | null) => (iso ? shortDay(dayNumberOf(iso)) : "no day");

/**
 * A deal on one page, from what is stored of it: what it is about, with whom, how often and when one spoke, what they
 * said, what is known and not, what was agreed and is due, what the account bought, what to ask next.
 */
export function briefOf(sheet: SheetView, promises: readonly PromiseView[]): BriefPart[] {
	const money = (amount: number) => `${amount < 0 ? "−" : ""}${currencySign(sheet.baseCurrency)}${fullAmount(Math.abs(amount), sheet.baseCurrency)}`;
	return [
		about(sheet, money),
		people(sheet),
		contacts(sheet),
		said(sheet),
		known(sheet),
		unknown(sheet),
		agreed(sheet, promises),
		due(sheet),
		bought(sheet, money),
		next(sheet),
	];
}

type Money = (amount: number) => string;
/** A line; what somebody wrote may end in a stop of its own. */
const line = (words: string, source: string): BriefLine => ({ words: words.replace(/([?!.…])\.$/u, "$1"), source });

function about(sheet: SheetView, money: Money): BriefPart {
	const visit = sheet.visits.at(-1);
	const lines = [
		line(
			`${sheet.name} for ${sheet.account}${sheet.customer ? `, ${sheet.customer.replaceAll("_", " ")}` : ""}: ${money(sheet.amount)}, due ${day(sheet.close)}.`,
			"the deal",
		),
		line(
			`${sheet.status === "open" ? `In ${sheet.stage}${visit ? ` since ${day(visit.from)}` : ""}` : `It is ${sheet.status}`}, opened ${day(sheet.created)}${sheet.category ? `; its rep says ${sheet.category.replaceAll("_", " ")}` : ""}.`,
			"the deal’s versions",
		),
	];
	if (sheet.source) lines.push(line(`It came by ${sheet.source}.`, "the deal"));
	if (sheet.competitor) lines.push(line(`Against us: ${sheet.competitor}.`, "the deal"));
	if (sheet.trail.pushes)
		lines.push(
			line(
				`Its date was pushed ${byCount(sheet.trail.pushes, "once", `${sheet.trail.pushes} times`)}, ${plural(sheet.trail.pushedDays, "calendar day")} in all.`,
				"its close dates",
			),
		);
	for (const { product, quantity, sold, currency } of sheet.lines.slice(0, QUOTED))
		if (product)
			lines.push(
				line(
					`${quantity ?? ""} ${product}${sold !== null && currency ? `, ${currencySign(currency)}${fullAmount(sold, currency)} each` : ""}`.trim(),
					"its lines",
				),
			);
	return { heading: "Overview", lines, none: "" };
}

function people({ people: all, missing }: SheetView): BriefPart {
	return {
		heading: "People",
		lines: [
			...all.map(({ name, title, role, last }) =>
				line(
					`${name}${title ? `, ${title}` : ""}${role ? ` (${role.replaceAll("_", " ")})` : ""}${last ? `; last spoken to ${day(last)}` : "; never spoken to"}.`,
					"people on the deal",
				),
			),
			...missing.map((role) => line(`Nobody here is known as the ${role}.`, "people on the deal")),
		],
		none: "Nobody of theirs is on the deal.",
	};
}

const isContact = ({ kind, planned }: SheetView["happenings"][number]) => kind === "contact" && !planned;

function contacts({ happenings, lastTouch, lastTouchDays, waiting, seen }: SheetView): BriefPart {
	const done = happenings.filter(isContact);
	const lately = done.filter((one) => dayNumberOf(one.day) > dayNumberOf(seen) - 90);
	const planned = happenings.filter(({ kind, planned: ahead, day: on }) => kind === "contact" && ahead && on >= seen).reverse();
	return {
		heading: "Contact",
		lines: [
			...(done.length ? [line(`${plural(done.length, "contact")} in all, ${lately.length} in the last 90 days.`, "its activities")] : []),
			...(lastTouch ? [line(`Last on ${day(lastTouch)}, ${plural(lastTouchDays ?? 0, "working day")} ago.`, "its activities")] : []),
			...(waiting
				? [
						line(
							`${waiting.side === "they" ? "They have been waiting for us" : "We have been waiting for them"} since ${day(waiting.since)}.`,
							"its activities",
						),
					]
				: []),
			...planned.slice(0, 3).map(({ what, day: on }) => line(`Planned: ${what}, ${day(on)}.`, "planned activities")),
		],
		none: "No contact yet.",
	};
}

function said({ happenings }: SheetView): BriefPart {
	const quoted = happenings.flatMap(({ kind, planned, direction, what, detail, by, day: on }) => {
		const words = kind === "note" ? what : kind === "contact" && direction !== "out" ? detail : null;
		if (planned || !words?.trim()) return [];
		return [line(`“${words.trim()}”`, `${kind === "note" ? "note" : what.split(":")[0]?.toLowerCase()}${by ? ` by ${by}` : ""}, ${day(on)}`)];
	});
	return { heading: "Latest notes", lines: quoted.slice(0, QUOTED), none: "No notes, and no messages from them." };
}

function known({ qualification }: SheetView): BriefPart {
	const lines = qualification.questions
		.filter(({ level }) => level === "shown" || level === "heard" || level === "against")
		.slice(0, QUESTIONS)
		.map(({ prompt, level, note, day: on, stale }) =>
			line(
				labelled(prompt, `${level === "against" ? "against us" : level}${note ? `, “${note}”` : ""}${stale ? " (old)" : ""}`),
				`answer${on ? ` of ${day(on)}` : ""}`,
			),
		);
	return { heading: "Known answers", lines, none: "Nothing was heard from them yet." };
}

function unknown({ qualification }: SheetView): BriefPart {
	const lines = qualification.questions
		.filter(({ level }) => level === "unknown" || level === "assumed")
		.slice(0, QUESTIONS)
		.map(({ prompt, level, due: isDue, note }) =>
			line(
				labelled(prompt, `${level}${note ? `, “${note}”` : ""}${isDue ? ", and due by this stage" : ""}`),
				level === "unknown" ? "no answer" : "an assumption",
			),
		);
	return { heading: "Open questions", lines, none: "Every question has an answer." };
}

function agreed({ plan, nextStep, nextStepDay }: SheetView, promises: readonly PromiseView[]): BriefPart {
	return {
		heading: "Agreed",
		lines: [
			...promises.map(({ title, who, due: on, fate }) => line(`${who} promised: ${title}, by ${day(on)}: ${fate}.`, "a round’s promise")),
			...(nextStep ? [line(`Next step: ${nextStep}${nextStepDay ? `, ${day(nextStepDay)}` : ""}.`, "the deal")] : []),
			...plan.filter(({ done }) => done).map(({ title, done }) => line(`Done: ${title}, ${day(done)}.`, "the close plan")),
		],
		none: "Nothing is written down.",
	};
}

function due({ tasks, plan, quotes, seen }: SheetView): BriefPart {
	return {
		heading: "Due",
		lines: [
			...tasks
				.filter(({ state }) => state === "open")
				.map(({ title, assignee, due: on, late }) => line(`${title} (${assignee}), ${day(on)}${late ? ", overdue" : ""}.`, "a task")),
			...plan
				.filter(({ done }) => !done)
				.map(({ title, side, due: on, late }) => line(`${title} (${side}), ${day(on)}${late ? ", overdue" : ""}.`, "the close plan")),
			...quotes
				.filter(({ answer, valid }) => !answer && valid !== null && valid >= seen)
				.map(({ number, valid }) => line(`Quote ${number ?? ""} is valid until ${day(valid)}, and unanswered.`, "a quote")),
		],
		none: "Nothing is due.",
	};
}

function bought({ accountInfo }: SheetView, money: Money): BriefPart {
	return {
		heading: "Purchases",
		lines: [
			...(accountInfo?.orders ?? [])
				.slice(0, QUESTIONS)
				.map(({ year, product, count, amount }) => line(`${year}: ${product}, ${count} for ${money(amount)}.`, "orders")),
			...(accountInfo?.others ?? [])
				.filter(({ status }) => status !== "open")
				.slice(0, QUOTED)
				.map(({ name, status, amount, closed }) => line(`${name}, ${money(amount)}: ${status} ${day(closed)}.`, "its other deals")),
		],
		none: "Nothing yet.",
	};
}

function next({ qualification, flags, status }: SheetView): BriefPart {
	// Of a closed deal nothing is left to ask.
	const gaps = status === "open" ? qualification.questions.filter(({ gap }) => gap) : [];
	return {
		heading: "Next questions and steps",
		lines: [
			...flags
				.slice(0, QUOTED)
				.map(({ remedy, reason }) => line(`${sentence(remedy)} ${reason.charAt(0).toUpperCase()}${reason.slice(1)}.`, "a flag’s remedy")),
			...[...gaps]
				.sort((a, b) => Number(b.key) - Number(a.key))
				.slice(0, QUOTED)
				.map(({ prompt }) => line(`Ask: ${prompt}`, "a question due by this stage")),
		],
		none: "Nothing presses.",
	};
}

/** A brief as plain text, to be copied. */
export function briefText(title: string, parts: readonly BriefPart[]): string {
	return [
		title,
		...parts.map(({ heading, lines, none }) =>
			[heading.toUpperCase(), ...(lines.length ? lines.map(({ words, source }) => `- ${words} [${source}]`) : [none])].filter(Boolean).join("\n"),
		),
	]
		.join("\n\n")
		.concat("\n");
}
