"use client";
import { parseAsInteger, parseAsString, useQueryStates } from "nuqs";
import { useTransition } from "react";
import { byCount, plural } from "@/core/words/grammar";
import { Choice, Phrase } from "@/ui/frame/Phrase";

const QUARTERS = [1, 2, 4, 6, 8];
const LEADS = [5, 10, 20, 40];

const quarterWords = (n: number) => byCount(n, "the last quarter", `the last ${n} quarters`);

/** The sentence of a look back: how many quarters, and how many working days before each end. */
export function Looking({ quarters, lead }: { readonly quarters: number; readonly lead: number }) {
	const [waiting, start] = useTransition();
	const [, set] = useQueryStates(
		{ quarters: parseAsInteger, lead: parseAsInteger, open: parseAsString },
		{ shallow: false, history: "replace", startTransition: start },
	);
	return (
		<span className={waiting ? "waiting" : ""}>
			deals due in{" "}
			<Phrase label="How many quarters" words={quarterWords(quarters)}>
				{[...new Set([...QUARTERS, quarters])].map((n) => (
					<Choice key={n} on={n === quarters} pick={() => void set({ quarters: n, open: null })}>
						{quarterWords(n)}
					</Choice>
				))}
			</Phrase>
			, looked at{" "}
			<Phrase label="How many working days before each end" words={plural(lead, "working day")}>
				{[...new Set([...LEADS, lead])].map((n) => (
					<Choice key={n} on={n === lead} pick={() => void set({ lead: n, open: null })}>
						{plural(n, "working day")}
					</Choice>
				))}
			</Phrase>{" "}
			before each end
		</span>
	);
}
