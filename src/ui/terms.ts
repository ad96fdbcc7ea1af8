import { CALL_KINDS } from "@/core/rounds/calls";
import { listed } from "@/core/words/grammar";
/** A word of the program's own: what it means, in one sentence. Help lists all of them; `Term` shows one where it is met first. */
export const TERMS = {
	lit: { word: "Lit", means: "A deal whose attention is at watch (from 20) or act (from 45), unless Setup says otherwise." },
	attention: {
		word: "Attention",
		means: "How much a deal needs the manager now, 0 to 100: 100 × risk × (½ + ½ stake) × (½ + ½ urgency); every sheet shows the parts.",
	},
	trail: {
		word: "Trail",
		means: "The path of a deal’s close date: hollow dots are earlier dates, the full dot is the current one, the dashed line is the period’s end.",
	},
	runway: { word: "Runway", means: "Working days from the day shown to the close date." },
	evidence: { word: "Evidence", means: "How we know an answer: unknown, assumed, heard from the buyer, shown by a source, or against us." },
	strength: {
		word: "Strength",
		means: "How well the answers of a deal are known, 0 to 100; the dark part of the evidence bar, with a tick at what the stage expects.",
	},
	coverage: { word: "Coverage", means: "How many of the questions were asked, 0 to 100; the pale part of the evidence bar." },
	mark: { word: "Mark", means: "A saved moment to compare with; one is saved every night. In Setup, a mark is also the limit of a figure of Period." },
	bridge: { word: "Bridge", means: "The steps from one moment’s open pipeline to another’s; they add up to the difference." },
	river: { word: "River", means: "The pipeline week by week: what came in, moved between stages, was won, lost or pushed out." },
	beam: { word: "Beam", means: "The period on one scale: won, commit, best case and pipeline, against the target." },
	outlook: { word: "Outlook", means: "Where the period will end, from how comparable deals ended, with its own track record." },
	try: { word: "Try", means: "A copy of the period in which deals can be moved, saved and later compared with what happened." },
	round: { word: "Round", means: "One review: a queue of deals, a call on each, and the minutes." },
	call: {
		word: "Call",
		means: `The manager’s word on a deal in a round: ${listed(
			CALL_KINDS.map(({ label }) => label.toLowerCase()),
			"or",
		)}.`,
	},
	promise: { word: "Promise", means: "A task agreed in a round; the next round opens with it." },
	walk: { word: "Walk", means: "A manager’s own ten minutes with the deals that are at act or newly lit." },
	rest: { word: "Rest", means: "A lit deal left alone until a day, with a reason; another flag ends it." },
	tie: {
		word: "Tie",
		means: "How well one of ours and one of theirs know each other: each conversation or message of theirs in a year counts, half as much after 90 days.",
	},
	brief: { word: "Brief", means: "A deal on one page, to read before a meeting." },
	remedy: { word: "Remedy", means: "The task whose result clears a flag." },
	kit: { word: "Kit", means: "A named set of tasks, each due a set number of working days after it is given." },
	desk: { word: "Desk", means: "Your own page: today’s tasks, your lit deals, and what you will be asked." },
} as const;

export type TermKey = keyof typeof TERMS;

/** The sentence of a term, for a tooltip. */
export const meaning = (key: TermKey): string => TERMS[key].means;

const BY_WORD = new Map<string, string>(
	Object.values(TERMS).flatMap(({ word, means }) => [[word.toLowerCase(), means] as const, [`${word.toLowerCase()}s`, means] as const]),
);

/** The sentence of a term by its word on a tab or a column’s head (`Trail`, `Rounds`); undefined where it isn’t a word of our own. */
export const meaningOf = (words: string): string | undefined => BY_WORD.get(words.toLowerCase());
