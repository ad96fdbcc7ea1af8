"use client";
import { Button, Form, Modal, ProgressBar } from "react-bootstrap";
import { plural } from "@/core/words/grammar";
import { nearDate } from "@/ui/format";
import { type IntakePlace, type Preview, useIntake } from "./useIntake";
import "./intake.css";

interface Props {
	readonly place: IntakePlace;
	readonly file: File;
	readonly today: string;
	readonly close: () => void;
}

/** A file of messages, meetings or people: what would be logged of it, what is here already, what is left out and why. */
export function IntakeDialog({ place, file, today, close }: Props) {
	const { sent, fault, view, adding, add, without, toggle, busy, leave, take } = useIntake(place, file, close);
	const ready = view?.state === "ready";
	const chosen = view?.counts ? view.counts.new + view.counts.cards - [...without].filter((one) => wanted(view, one)).length + adding.length : 0;
	return (
		<Modal show onHide={leave} size="lg" aria-labelledby="intake-title" scrollable>
			<Modal.Header closeButton>
				<Modal.Title id="intake-title">Log from {file.name}</Modal.Title>
			</Modal.Header>
			<Modal.Body aria-live="polite">
				{fault ? (
					<p className="worse mb-0">{fault}</p>
				) : !ready || !view ? (
					<Underway sent={sent} view={view} />
				) : (
					<Found {...{ view, today, adding, add, without, toggle }} />
				)}
			</Modal.Body>
			<Modal.Footer>
				<Button variant="link" onClick={leave}>
					Cancel
				</Button>
				<Button disabled={!ready || busy || chosen === 0} onClick={() => void take()}>
					{busy ? "Logging…" : "Log these"}
				</Button>
			</Modal.Footer>
		</Modal>
	);
}

const wanted = (view: Preview, ordinal: number) =>
	view.lines.some((line) => line.ordinal === ordinal && line.fate === "new") || view.cards.some((card) => card.ordinal === ordinal && !card.fate);

function Underway({ sent, view }: { sent: number; view: Preview | null }) {
	if (view?.state === "failed" || view?.state === "cancelled") return <p className="worse mb-0">{view.problems[0] ?? "It wasn’t read."}</p>;
	const [words, share] = view ? ["Reading", view.total ? view.done / view.total : 0] : ["Sending", sent];
	return (
		<>
			<p className="mb-2">
				{words}: {Math.round(share * 100)}%. Nothing is logged before you say so.
			</p>
			<ProgressBar now={share * 100} label={`${words} ${Math.round(share * 100)}%`} visuallyHidden aria-label={words} />
		</>
	);
}

interface FoundProps {
	readonly view: Preview;
	readonly today: string;
	readonly adding: readonly string[];
	readonly add: (next: readonly string[]) => Promise<void>;
	readonly without: ReadonlySet<number>;
	readonly toggle: (ordinal: number) => void;
}

function Found({ view, today, adding, add, without, toggle }: FoundProps) {
	const { counts, lines, more, strangers, cards, problems } = view;
	const said = counts && [
		counts.new && `${counts.new} will be logged`,
		counts.there && `${plural(counts.there, "is", "are")} logged already`,
		counts.left && `${plural(counts.left, "is", "are")} left out`,
		cards.length > 0 && `${plural(counts.cards, "person is", "people are")} new`,
	];
	return (
		<>
			<p className="mb-2">{said?.filter(Boolean).join(", ") || "Nothing was found in it"}.</p>
			{problems.length > 0 && (
				<ul className="small-text worse">
					{problems.slice(0, 10).map((problem) => (
						<li key={problem}>{problem}</li>
					))}
					{problems.length > 10 && <li>{problems.length - 10} more of this kind</li>}
				</ul>
			)}
			<Strangers {...{ strangers, adding, add }} />
			<ul className="intake-lines">
				{lines.map((line) => (
					<Line key={line.ordinal} line={line} today={today} checked={!without.has(line.ordinal)} toggle={toggle} />
				))}
				{cards.map((card) => (
					<Card key={card.ordinal} card={card} checked={!without.has(card.ordinal)} toggle={toggle} />
				))}
			</ul>
			{more > 0 && <p className="second small-text mb-0">{more} more aren’t listed; what is new of them is logged too.</p>}
		</>
	);
}

interface OneProps {
	readonly checked: boolean;
	readonly toggle: (ordinal: number) => void;
}

function Line({ line, today, checked, toggle }: OneProps & { line: Preview["lines"][number]; today: string }) {
	const isNew = line.fate === "new";
	return (
		<li className={isNew ? undefined : "second"}>
			<Form.Check aria-label={`Log ${line.subject}`} checked={isNew && checked} disabled={!isNew} onChange={() => toggle(line.ordinal)} />
			<span className="third">{line.day ? nearDate(line.day, today) : "no date"}</span>
			<span>
				{line.subject}
				<span className="d-block tiny second">
					{line.planned ? "planned, " : line.direction ? `${DIRECTION[line.direction]}, ` : ""}
					{[line.from, line.to.join(", ")].filter(Boolean).join(line.sort === "meeting" ? ", " : " → ")}
					{line.why && <b> · {line.why}</b>}
					{line.files.length > 0 && (
						<span className="d-block">
							with {plural(line.files.length, "file")}: {line.files.join(", ")}
						</span>
					)}
				</span>
			</span>
		</li>
	);
}

function Card({ card, checked, toggle }: OneProps & { card: Preview["cards"][number] }) {
	return (
		<li className={card.fate ? "second" : undefined}>
			<Form.Check aria-label={`Add ${card.name}`} checked={!card.fate && checked} disabled={card.fate !== null} onChange={() => toggle(card.ordinal)} />
			<span className="third">person</span>
			<span>
				{card.name}
				<span className="d-block tiny second">
					{[card.title, card.email].filter(Boolean).join(" · ")}
					{card.fate && <b> · {card.fate}</b>}
				</span>
			</span>
		</li>
	);
}

const DIRECTION: Readonly<Record<string, string>> = { in: "they to us", out: "we to them", both: "a conversation", none: "internal" };

/** People who have part and aren’t known here: chosen, they become contacts, and what they have part in is theirs. */
function Strangers({ strangers, adding, add }: Pick<FoundProps, "adding" | "add"> & Pick<Preview, "strangers">) {
	if (!strangers.length) return null;
	const chosen = new Set(adding);
	return (
		<fieldset className="intake-strangers">
			<legend>Not known here; make them contacts of this account?</legend>
			{strangers.map(({ address, name, times }) => (
				<Form.Check
					key={address}
					id={`stranger-${address}`}
					label={`${name ? `${name}, ` : ""}${address} (${times})`}
					checked={chosen.has(address)}
					onChange={() => void add(chosen.has(address) ? adding.filter((one) => one !== address) : [...adding, address])}
				/>
			))}
		</fieldset>
	);
}
