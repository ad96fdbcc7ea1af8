"use client";
import Link from "next/link";
import { usePathname, useRouter, useSearchParams } from "next/navigation";
import { type ReactNode, useState, useTransition } from "react";
import { Button, Dropdown, Form } from "react-bootstrap";
import { useHotkeys } from "react-hotkeys-hook";
import { byCount } from "@/core/words/grammar";
import { DayField } from "@/ui/parts/DayField";
import { longDate } from "../format";
import { useRun } from "../run";
import { useAct } from "../useAct";
import type { FrameView } from "./view";

type Part = "whose" | "due" | "seen" | "against";

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
					<div className="working-days" title={`Working days after ${sentence.seen.words} up to ${sentence.due.end}, without weekends and holidays`}>
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

type Changes = Partial<Record<Part, string | null>>;

interface PhraseProps {
	readonly view: FrameView;
	readonly set: (changes: Changes) => void;
}

type SeenProps = Pick<PhraseProps, "view"> & { readonly setSeen: (day: string | null) => void };

function Whose({ view, set }: PhraseProps) {
	const { sentence, choices } = view;
	return (
		<Phrase label="Whose deals" words={sentence.whose.words}>
			<Choice on={sentence.whose.key === "all"} pick={() => set({ whose: "all" })}>
				{choices.everyone ? "Everyone’s" : "All my deals"}
			</Choice>
			{choices.teams.length > 0 && <Dropdown.Header>Teams, with those below</Dropdown.Header>}
			{choices.teams.map((team) => (
				<Choice key={team.key} on={team.key === sentence.whose.key} pick={() => set({ whose: team.key })}>
					{team.words}
				</Choice>
			))}
			{choices.people.length > 1 && <Dropdown.Header>Reps</Dropdown.Header>}
			{choices.people.length > 1 &&
				choices.people.map((person) => (
					<Choice key={person.key} on={person.key === sentence.whose.key} pick={() => set({ whose: person.key })}>
						{person.words} <span className="third">{person.team}</span>
					</Choice>
				))}
		</Phrase>
	);
}

function Due({ view, set }: PhraseProps) {
	const { sentence, choices } = view;
	return (
		<Phrase label="Closing when" words={sentence.due.words}>
			{choices.quarters.map((quarter) => (
				<Choice key={quarter.key} on={quarter.key === sentence.due.key} pick={() => set({ due: quarter.key })}>
					{quarter.words}
				</Choice>
			))}
			<Dropdown.Divider />
			<Choice on={sentence.due.key === "any"} pick={() => set({ due: "any" })}>
				Any period
			</Choice>
			<Choice on={sentence.due.key === "none"} pick={() => set({ due: "none" })}>
				No close date
			</Choice>
			<RangeForm start={sentence.due.start} end={sentence.due.end} pick={(range) => set({ due: range })} />
		</Phrase>
	);
}

function Seen({ view, setSeen }: SeenProps) {
	const { sentence, choices } = view;
	return (
		<Phrase label="Seen on which day" words={sentence.seen.words}>
			<Choice on={!sentence.seen.past} pick={() => setSeen(null)}>
				Today
			</Choice>
			{choices.marks.map((mark) => (
				<Choice key={mark.key} on={mark.key === sentence.seen.day} pick={() => setSeen(mark.key)}>
					{mark.words}
				</Choice>
			))}
			<DayForm label="Another day" day={sentence.seen.day} most={view.today} pick={setSeen} />
		</Phrase>
	);
}

function Against({ view, set }: PhraseProps) {
	const { sentence, choices } = view;
	return (
		<Phrase label="Against which earlier day" words={sentence.against.words}>
			<Choice on={sentence.against.key === "week"} pick={() => set({ against: "week" })}>
				One week before
			</Choice>
			{sentence.due.start && sentence.due.start <= sentence.seen.day && (
				<Choice on={sentence.against.key === "start"} pick={() => set({ against: "start" })}>
					Start of the period
				</Choice>
			)}
			{choices.lastMark && (
				<Choice on={sentence.against.key === "mark"} pick={() => set({ against: "mark" })}>
					Last mark <span className="third">{choices.lastMark}</span>
				</Choice>
			)}
			{choices.marks.length > 0 && <Dropdown.Header>Marks</Dropdown.Header>}
			{choices.marks.map((mark) => (
				<Choice key={mark.key} on={sentence.against.key !== "mark" && mark.key === sentence.against.day} pick={() => set({ against: mark.key })}>
					{mark.words}
				</Choice>
			))}
			<DayForm label="Another day" day={sentence.against.day} most={sentence.seen.day} pick={(day) => set({ against: day })} />
			{choices.mayMark && !sentence.seen.past && <MarkForm />}
		</Phrase>
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
					You are looking at {sentence.seen.words} as it was at the end of that day; read only.{" "}
					<Button variant="link" size="sm" className="p-0 align-baseline" onClick={() => setSeen(null)}>
						Back to today
					</Button>{" "}
					<span className="third">(Shift N)</span>
				</div>
			)}
		</>
	);
}

/** A phrase of a sentence that can be chosen. */
export function Phrase({ label, words, children }: { label: string; words: string; children: ReactNode }) {
	return (
		<Dropdown>
			<Dropdown.Toggle as="button" type="button" className="phrase" aria-label={`${words}: ${label}`}>
				{words}
			</Dropdown.Toggle>
			<Dropdown.Menu>{children}</Dropdown.Menu>
		</Dropdown>
	);
}

/** What a phrase may say instead. */
export function Choice({ on, pick, children }: { on: boolean; pick: () => void; children: ReactNode }) {
	return (
		<Dropdown.Item as="button" type="button" active={on} onClick={pick}>
			{children}
		</Dropdown.Item>
	);
}

function DayForm({ label, day, most, pick }: { label: string; day: string; most: string; pick: (day: string) => void }) {
	const [value, setValue] = useState(day);
	return (
		<Form
			className="px-3 py-2 d-flex gap-2 align-items-end"
			onSubmit={(event) => {
				event.preventDefault();
				if (value) pick(value);
			}}
		>
			<Form.Group controlId={`day-${label}-${most}-${day}`}>
				<Form.Label className="tiny mb-0">{label}</Form.Label>
				<DayField size="sm" value={value} max={most} required onDay={(day) => setValue(day)} />
			</Form.Group>
			<Button type="submit" size="sm" variant="outline-primary">
				Apply
			</Button>
		</Form>
	);
}

/** Keeps this moment under a name, to compare with later. */
function MarkForm() {
	const [name, setName] = useState("");
	const run = useRun();
	const act = useAct();
	return (
		<Form
			className="px-3 py-2 d-flex gap-2 align-items-end border-top"
			onSubmit={async (event) => {
				event.preventDefault();
				const done = await act(run("changes.keepMark", { name }), `This moment is saved as “${name}”; you can compare with it from tomorrow on.`, (made) =>
					run("changes.removeMark", { id: made.id }),
				);
				if (done) setName((now) => (now === name ? "" : now));
			}}
		>
			<Form.Group controlId="mark-name">
				<Form.Label className="tiny mb-0">Save this moment as a mark</Form.Label>
				<Form.Control size="sm" placeholder="Monday round" maxLength={100} value={name} onChange={(event) => setName(event.target.value)} />
			</Form.Group>
			<Button type="submit" size="sm" variant="outline-primary" disabled={!name.trim()}>
				Save
			</Button>
		</Form>
	);
}

function RangeForm({ start, end, pick }: { start: string | null; end: string | null; pick: (range: string) => void }) {
	const [from, setFrom] = useState(start ?? "");
	const [to, setTo] = useState(end ?? "");
	const wrong = Boolean(from && to && to < from);
	return (
		<Form
			className="px-3 py-2"
			onSubmit={(event) => {
				event.preventDefault();
				if (!wrong && (from || to)) pick(`${from}..${to}`);
			}}
		>
			<div className="d-flex gap-2 align-items-end">
				<Form.Group controlId="range-from">
					<Form.Label className="tiny mb-0">From</Form.Label>
					<DayField size="sm" value={from} onDay={(day) => setFrom(day)} />
				</Form.Group>
				<Form.Group controlId="range-to">
					<Form.Label className="tiny mb-0">To</Form.Label>
					<DayField size="sm" value={to} isInvalid={wrong} onDay={(day) => setTo(day)} />
				</Form.Group>
				<Button type="submit" size="sm" variant="outline-primary" disabled={wrong}>
					Apply
				</Button>
			</div>
			{wrong && <div className="tiny worse">The period ends before it starts.</div>}
		</Form>
	);
}
