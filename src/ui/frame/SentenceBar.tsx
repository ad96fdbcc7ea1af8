"use client";
import Link from "next/link";
import { usePathname, useRouter, useSearchParams } from "next/navigation";
import { type ReactNode, useTransition } from "react";
import { Button } from "react-bootstrap";
import { useHotkeys } from "react-hotkeys-hook";
import { byCount } from "@/core/words/grammar";
import { longDate } from "../format";
import { Against, Due, Seen, Whose } from "./SentencePhrases";
import type { Changes, PhraseProps, SeenProps } from "./sentenceChanges";
import type { FrameView } from "./view";

/** Changes parts of the sentence in the address. */
function useSentence({ sentence, today }: FrameView) {
	const router = useRouter();
	const path = usePathname();
	const params = useSearchParams();
	const [waiting, start] = useTransition();

	const set = (changes: Changes) => {
		const next = new URLSearchParams(params);
		for (const [part, value] of Object.entries(changes)) {
			if (value) next.set(part, value);
			else next.delete(part);
		}
		start(() => router.push(`${path}?${next}`));
	};
	const setSeen = (day: string | null) => {
		const against = params.get("against");
		// A day to compare with that isn't earlier any more is let go; a moment in words moves along.
		const gone = against && day && (against === "start" ? sentence.due.start !== null && sentence.due.start > day : /^\d/.test(against) && against >= day);
		set({ seen: day === today ? null : day, ...(gone ? { against: null } : {}) });
	};
	useHotkeys("shift+n", () => sentence.seen.past && setSeen(null));
	return { set, setSeen, waiting };
}

/** On a screen without the sentence: says that it shows a past day, and leads back. */
export function PastBar({ view }: { view: FrameView }) {
	const { set, setSeen } = useSentence(view);
	return <PastNotes view={view} set={set} setSeen={setSeen} />;
}

/** What a screen of its own kind says in the sentence instead of when deals are due and against when. */
export interface Said {
	readonly middle: ReactNode;
	readonly corner: ReactNode;
}

/** Whose deals, closing when, seen when, against when: said once, each phrase a control, all of it in the address. */
export function SentenceBar({ view, says }: { view: FrameView; says?: Said }) {
	const { sentence } = view;
	const { set, setSeen, waiting } = useSentence(view);
	return (
		<>
			<header className={`sentence ${waiting ? "waiting" : ""}`} aria-busy={waiting}>
				<h1>
					<Whose view={view} set={set} />{" "}
					{says ? (
						<>
							{says.middle}, seen <Seen view={view} setSeen={setSeen} />
						</>
					) : (
						<>
							deals due in <Due view={view} set={set} />, seen <Seen view={view} setSeen={setSeen} /> against <Against view={view} set={set} />
						</>
					)}
				</h1>
				{/* On paper nobody knows which day today was. */}
				<span className="print-only second small-text">
					Seen on {longDate(sentence.seen.day)}
					{!says && `, against ${longDate(sentence.against.day)}`}
				</span>
				{says?.corner && <div className="working-days">{says.corner}</div>}
				{!says && sentence.workingDaysLeft !== null && (
					<div className="working-days" title={`Working days after ${sentence.seen.label} up to ${sentence.due.end}, without weekends and holidays`}>
						<b>{sentence.workingDaysLeft}</b> working {byCount(sentence.workingDaysLeft, "day", "days")}
						<br />
						to period close
					</div>
				)}
			</header>
			<PastNotes view={view} set={set} setSeen={setSeen} />
			<Undecided view={view} />
			<Nothing view={view} />
		</>
	);
}

/** Deals that the last weekly file hasn't got count as open until somebody says what became of them: whoever reads the figures should know. */
function Undecided({ view: { undecided, mayDecide } }: { view: FrameView }) {
	const path = usePathname();
	if (!undecided || !/^\/(deals|changes)/.test(path)) return null;
	return (
		<div className="past-note" role="status">
			{byCount(undecided, "One deal isn’t", `${undecided} deals aren’t`)} in the last weekly file and {byCount(undecided, "counts", "count")} shown as before,
			until it is decided what happened to {byCount(undecided, "it", "them")}.{" "}
			{mayDecide ? <Link href="/setup?place=weekly">Decide</Link> : "Ops decides this in Setup."}
		</div>
	);
}

/** Why nothing is shown, where there is a reason that isn't in the sentence; and what to do about it. */
function Nothing({ view: { nothing, mayDecide } }: { view: FrameView }) {
	if (!nothing) return null;
	return (
		<div className="past-note" role="status">
			{nothing === "no deals" ? (
				<>No deals yet. {mayDecide ? <Link href="/setup?place=company">Import your first file</Link> : "Ops imports the first file."}</>
			) : (
				"You are in no team yet, so no deals are shown. Ops can add you to one in Setup, People and teams."
			)}
		</div>
	);
}

function PastNotes({ view, set, setSeen }: PhraseProps & SeenProps) {
	const { sentence } = view;
	return (
		<>
			{sentence.knownFrom && (
				<div className="past-note" role="status">
					No data before {longDate(sentence.knownFrom)}, so everything counts as new here.{" "}
					<Button
						variant="link"
						size="sm"
						className="p-0 align-baseline"
						onClick={() => set({ against: sentence.knownFrom, ...(sentence.seen.day <= (sentence.knownFrom ?? "") ? { seen: null } : {}) })}
					>
						Compare with that day
					</Button>
				</div>
			)}
			{sentence.seen.past && (
				<div className="past-note" role="status">
					You are looking at {sentence.seen.label} as it was at the end of that day; read only.{" "}
					<Button variant="link" size="sm" className="p-0 align-baseline" onClick={() => setSeen(null)}>
						Back to today
					</Button>{" "}
					<span className="third">(Shift N)</span>
				</div>
			)}
		</>
	);
}
