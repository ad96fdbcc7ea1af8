"use client";
import { Form } from "react-bootstrap";
import { unknownFields } from "../table/fill";
import type { Giving } from "./giving";

const FIELDS = ["{deal}", "{account}", "{close date}", "{flag}"];

export function Text({ giving, set, fields }: { giving: Giving; set: (part: Partial<Giving>) => void; fields: boolean }) {
	const strange = fields ? unknownFields(giving.title) : [];
	return (
		<Form.Group controlId="task-title" className="mb-3">
			<Form.Label>Task text</Form.Label>
			<Form.Control
				as="textarea"
				rows={2}
				value={giving.title}
				maxLength={300}
				required
				autoFocus
				placeholder="Agree a real close date with the buyer"
				onChange={(event) => set({ title: event.target.value })}
			/>
			{fields && (
				<Form.Text>
					Filled in for each deal:{" "}
					{FIELDS.map((field) => (
						<button
							key={field}
							type="button"
							className="plain-button give-field"
							onClick={() => set({ title: `${giving.title}${giving.title && !giving.title.endsWith(" ") ? " " : ""}${field}` })}
						>
							{field}
						</button>
					))}
					{strange.length > 0 && <b className="worse"> {strange.join(", ")} isn’t one of them and stays as written.</b>}
				</Form.Text>
			)}
		</Form.Group>
	);
}
