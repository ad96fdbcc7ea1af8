"use client";
import { Form } from "react-bootstrap";
import type { Taker } from "./choices";

interface Props {
	readonly label: string;
	readonly value: string;
	readonly people: readonly Taker[];
	/** what else can be chosen, before the people: value and words */
	readonly more?: readonly (readonly [string, string])[];
	readonly onChange: (to: string) => void;
}

/** Who takes one thing over; `more` says what else can become of it. */
export function TakerSelect({ label, value, people, more = [["", "stays"]], onChange }: Props) {
	return (
		<Form.Select size="sm" className="taker" aria-label={label} value={value} onChange={(event) => onChange(event.target.value)}>
			{more.map(([key, words]) => (
				<option key={key} value={key}>
					{words}
				</option>
			))}
			{people.map(({ id, name, team }) => (
				<option key={id} value={id}>
					{team ? `${name}, ${team}` : name}
				</option>
			))}
		</Form.Select>
	);
}
