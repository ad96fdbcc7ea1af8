"use client";
import { Button, Form } from "react-bootstrap";
import { DayField } from "@/ui/parts/DayField";
import type { Input } from "@/ui/run";

export type Direction = Input<"accounts.log">["direction"];

/** What is written of an activity. */
export interface Draft {
	readonly kind: string;
	readonly direction: Direction;
	readonly day: string;
	readonly subject: string;
}

interface Props {
	readonly draft: Draft;
	readonly set: (part: Partial<Draft>) => void;
	readonly kinds: readonly string[];
	/** none: it isn’t asked */
	readonly directions: readonly (readonly [Direction, string])[];
	/** what the day is called, and where it begins; an empty day is this one */
	readonly dayLabel: string;
	readonly today: string;
	readonly min?: string;
	/** what the button says */
	readonly label: string;
	readonly onCancel: () => void;
	/** further fields, before the subject */
	readonly children?: React.ReactNode;
}

/** The fields of an activity in a line: kind, direction, day, what it was about. */
export function ActivityFields({ draft, set, kinds, directions, dayLabel, today, min, label, onCancel, children }: Props) {
	return (
		<>
			<Form.Select size="sm" aria-label="Kind of activity" value={draft.kind} onChange={({ target }) => set({ kind: target.value })}>
				{kinds.map((one) => (
					<option key={one}>{one}</option>
				))}
			</Form.Select>
			{directions.length > 0 && (
				<Form.Select size="sm" aria-label="Direction" value={draft.direction} onChange={({ target }) => set({ direction: target.value as Direction })}>
					{directions.map(([key, words]) => (
						<option key={key} value={key}>
							{words}
						</option>
					))}
				</Form.Select>
			)}
			{children}
			<DayField size="sm" aria-label={dayLabel} value={draft.day} min={min} onDay={(next) => set({ day: next || today })} />
			<Form.Control
				size="sm"
				className="account-subject"
				aria-label="What was it about?"
				placeholder="What was it about?"
				autoFocus
				value={draft.subject}
				onChange={({ target }) => set({ subject: target.value })}
			/>
			<Button size="sm" type="submit" disabled={!draft.subject.trim()}>
				{label}
			</Button>
			<Button size="sm" variant="link" onClick={onCancel}>
				Cancel
			</Button>
		</>
	);
}
