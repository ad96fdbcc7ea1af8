"use client";
import { useState } from "react";
import { Button, Form } from "react-bootstrap";

interface Props {
	/** names the field, and stands in it while it is empty */
	readonly label: string;
	readonly most: number;
	/** what is done with what was written; it stays in the field where nothing came of it */
	readonly onAdd: (text: string) => Promise<unknown>;
}

/** A line to write something into a list. */
export function AddLine({ label, most, onAdd }: Props) {
	const [text, setText] = useState("");
	return (
		<Form
			className="d-flex gap-2 no-print"
			onSubmit={async (event) => {
				event.preventDefault();
				if (await onAdd(text)) setText("");
			}}
		>
			<Form.Control size="sm" aria-label={label} placeholder={label} maxLength={most} value={text} onChange={({ target }) => setText(target.value)} />
			<Button size="sm" variant="outline-primary" type="submit" disabled={!text.trim()}>
				Add
			</Button>
		</Form>
	);
}
