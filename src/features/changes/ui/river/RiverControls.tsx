"use client";
import { Button, Form } from "react-bootstrap";
import type { RiverView } from "../../server/readRiver";
import { PACES, type Pace } from "./usePlay";
import type { RiverDate } from "./useRiverDate";

/** How long a time the river shows. */
export function SpanSelect({ view, onChange }: { view: RiverView; onChange: (span: string | null) => void }) {
	return (
		<Form.Select
			size="sm"
			className="w-auto"
			aria-label="Span"
			value={view.span}
			onChange={(event) => onChange(event.target.value === "halves" ? null : event.target.value)}
		>
			{view.spans.map((one) => (
				<option key={one.key} value={one.key}>
					{one.label}
				</option>
			))}
		</Form.Select>
	);
}

interface SlicingProps {
	readonly view: RiverView;
	readonly by: keyof RiverView["slices"];
	readonly part: string | null;
	readonly onSpan: (span: string | null) => void;
	readonly onBy: (by: keyof RiverView["slices"]) => void;
	readonly onPart: (part: string | null) => void;
}

/** Which time, cut by what, and which part of it. */
export function Slicing({ view, by, part, onSpan, onBy, onPart }: SlicingProps) {
	return (
		<div className="river-controls no-print">
			<SpanSelect view={view} onChange={onSpan} />
			<Form.Select size="sm" aria-label="Slice by" value={by} onChange={(event) => onBy(event.target.value as typeof by)}>
				{view.fields.map((one) => (
					<option key={one.key} value={one.key}>
						by {one.label}
					</option>
				))}
			</Form.Select>
			<Form.Select size="sm" aria-label="Part" value={part ?? ""} onChange={(event) => onPart(event.target.value || null)}>
				<option value="">all</option>
				{view.slices[by].parts.map((one) => (
					<option key={one}>{one}</option>
				))}
			</Form.Select>
		</div>
	);
}

/** Sets the date running, at a pace, or moves it by a week. */
export function Running({ date: { running, setRunning, weekStep }, pace, onPace }: { date: RiverDate; pace: Pace; onPace: (pace: Pace) => void }) {
	return (
		<div className="river-controls no-print">
			<Button size="sm" variant={running === -1 ? "primary" : "outline-primary"} onClick={() => setRunning(running === -1 ? 0 : -1)}>
				{running === -1 ? "Stop" : "Run back"}
			</Button>
			<Button size="sm" variant="outline-primary" onClick={() => weekStep(-1)}>
				Week back
			</Button>
			<Button size="sm" variant="outline-primary" onClick={() => weekStep(1)}>
				Week on
			</Button>
			<Button size="sm" variant={running === 1 ? "primary" : "outline-primary"} onClick={() => setRunning(running === 1 ? 0 : 1)}>
				{running === 1 ? "Stop" : "Run"}
			</Button>
			<Form.Select size="sm" aria-label="Pace" value={pace} onChange={(event) => onPace(event.target.value as Pace)}>
				{PACES.map((one) => (
					<option key={one.key} value={one.key}>
						{one.label}
					</option>
				))}
			</Form.Select>
			<span className="third tiny">← → a week, with Shift a day; space runs</span>
		</div>
	);
}
