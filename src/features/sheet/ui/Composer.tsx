"use client";
import { useRef, useState } from "react";
import { Button, Form } from "react-bootstrap";
import { useHotkeys } from "react-hotkeys-hook";
import { listed } from "@/core/words/grammar";
import { useAttached } from "@/features/attachments/ui/AttachToActivity";
import { IntakeButton } from "@/features/intake/ui/IntakePlace";
import { DayField } from "@/ui/parts/DayField";
import { type Input, useRun } from "@/ui/run";
import { useAct } from "@/ui/useAct";
import type { SheetView } from "../server/sheetView";

type Direction = Input<"sheet.logActivity">["direction"];

const DIRECTIONS = [
	["both", "a conversation"],
	["out", "we to them"],
	["in", "they to us"],
	["none", "among us"],
] as const;
/** how a kind mostly goes */
const USUAL: Readonly<Record<string, Direction>> = { email: "out", message: "out", note: "none" };

/** One line logs what was said, or plans it; another writes a note that can call on people. */
export function Composer({ view, keys = false }: { view: SheetView; keys?: boolean }) {
	if (!view.mayNote) return null;
	return (
		<div className="composer no-print">
			<LogLine view={view} />
			<NoteLine view={view} keys={keys} />
		</div>
	);
}

function LogLine({ view }: { view: SheetView }) {
	const [kind, setKind] = useState(view.choices.kinds[0] ?? "call");
	const [direction, setDirection] = useState<Input<"sheet.logActivity">["direction"]>("both");
	const [subject, setSubject] = useState("");
	const [day, setDay] = useState(view.seen);
	const [contact, setContact] = useState("");
	const attached = useAttached();
	const run = useRun();
	const act = useAct();
	const log = async () => {
		const done = await act(
			run("sheet.logActivity", { dealId: view.id, kind, direction, subject, day, contactIds: contact ? [contact] : [] }),
			(made) => (made.planned ? "Planned." : "Logged."),
			(made) => run("sheet.settleActivity", { id: made.id, what: "back" }),
		);
		if (!done) return;
		setSubject((now) => (now === subject ? "" : now));
		await attached.send(done.result.id);
	};
	return (
		<Form
			className="log-line"
			aria-label="Log an activity"
			onSubmit={(event) => {
				event.preventDefault();
				void log();
			}}
		>
			<Form.Select
				size="sm"
				aria-label="Kind of activity"
				value={kind}
				onChange={(event) => {
					setKind(event.target.value);
					setDirection(USUAL[event.target.value] ?? "both");
				}}
			>
				{view.choices.kinds.map((name) => (
					<option key={name}>{name}</option>
				))}
			</Form.Select>
			<Spoke view={view} direction={direction} setDirection={setDirection} contact={contact} setContact={setContact} />
			<DayField size="sm" aria-label="Day (a future day plans it)" value={day} required onDay={(day) => setDay(day)} />
			<Form.Control
				size="sm"
				className="log-subject"
				aria-label="Subject"
				placeholder="Subject, then Enter"
				maxLength={500}
				required
				value={subject}
				onChange={(event) => setSubject(event.target.value)}
			/>
			<Button size="sm" type="submit" disabled={!subject.trim()}>
				{day > view.seen ? "Plan" : "Log"}
			</Button>
			{attached.field} <IntakeButton />
		</Form>
	);
}

function NoteLine({ view, keys }: { view: SheetView; keys: boolean }) {
	// Long: one form, its fields in their order.
	const [body, setBody] = useState("");
	const box = useRef<HTMLTextAreaElement>(null);
	const run = useRun();
	const act = useAct();
	useHotkeys(
		"n",
		(event) => {
			event.preventDefault();
			box.current?.focus();
		},
		{ enabled: keys },
	);
	const call = /@([\p{L} ]{0,40})$/u.exec(body)?.[1];
	const callable =
		call === undefined
			? []
			: view.callable
					.filter((name) => name !== view.me && name.toLowerCase().startsWith(call.toLowerCase()) && name.toLowerCase() !== call.toLowerCase())
					.slice(0, 5);
	const write = async () => {
		const done = await act(
			run("sheet.writeNote", { dealId: view.id, body }),
			(made) => (made.mentions.length ? `Noted; ${listed(made.mentions)} will see it on their desk.` : "Note saved."),
			(made) => run("sheet.takeBackNote", { id: made.id }),
		);
		if (done) setBody((now) => (now === body ? "" : now));
	};
	return (
		<Form
			className="note-line"
			aria-label="Write a note"
			onSubmit={(event) => {
				event.preventDefault();
				void write();
			}}
		>
			<Form.Control
				as="textarea"
				rows={body.includes("\n") || body.length > 90 ? 4 : 1}
				size="sm"
				ref={box}
				aria-label="Note"
				placeholder="Note; @ mentions a colleague"
				maxLength={10_000}
				value={body}
				onChange={(event) => setBody(event.target.value)}
				onKeyDown={(event) => {
					if (event.key === "Enter" && (event.ctrlKey || event.metaKey)) {
						event.preventDefault();
						if (body.trim()) void write();
					}
				}}
			/>
			<Button size="sm" variant="outline-primary" type="submit" disabled={!body.trim()}>
				Note
			</Button>
			<Callable
				names={callable}
				onPick={(name) => {
					setBody(`${body.slice(0, body.length - (call?.length ?? 0))}${name} `);
					box.current?.focus();
				}}
			/>
		</Form>
	);
}

interface SpokeProps {
	readonly view: SheetView;
	readonly direction: Direction;
	readonly setDirection: (direction: Direction) => void;
	readonly contact: string;
	readonly setContact: (id: string) => void;
}

/** Who spoke, and with whom. */
function Spoke({ view, direction, setDirection, contact, setContact }: SpokeProps) {
	return (
		<>
			<Form.Select size="sm" aria-label="Who spoke" value={direction} onChange={(event) => setDirection(event.target.value as Direction)}>
				{DIRECTIONS.map(([value, words]) => (
					<option key={value} value={value}>
						{words}
					</option>
				))}
			</Form.Select>
			<Form.Select size="sm" aria-label="Contact" value={contact} onChange={(event) => setContact(event.target.value)}>
				<option value="">with …</option>
				{view.people.map((person) => (
					<option key={person.id} value={person.id}>
						{person.name}
					</option>
				))}
			</Form.Select>
		</>
	);
}

/** The colleagues whose names begin with what stands after the @. */
function Callable({ names, onPick }: { names: readonly string[]; onPick: (name: string) => void }) {
	if (!names.length) return null;
	return (
		<ul className="callable">
			{names.map((name) => (
				<li key={name}>
					<button type="button" className="plain-button" onClick={() => onPick(name)}>
						@{name}
					</button>
				</li>
			))}
		</ul>
	);
}
