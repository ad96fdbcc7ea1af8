"use client";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Form } from "react-bootstrap";
import { useRun } from "@/ui/run";

interface Props {
	readonly label: string;
	/** what is looked for at first */
	readonly first: string;
	readonly chosen: string | null;
	readonly onChoose: (id: string | null) => void;
	/** one that can’t be chosen */
	readonly but?: string;
	readonly autoFocus?: boolean;
}

/** Chooses an account among those whose name has some words in it. */
export function ChooseAccount({ label, first, chosen, onChoose, but, autoFocus = false }: Props) {
	const [text, setText] = useState(first);
	const run = useRun();
	const { data: found } = useQuery({ queryKey: ["accounts.find", text], enabled: text.trim() !== "", queryFn: () => run("accounts.find", { text }) });
	const others = found?.ok ? found.result.filter(({ id }) => id !== but) : [];
	return (
		<>
			<Form.Group controlId="choose-account">
				<Form.Label>{label}</Form.Label>
				<Form.Control
					type="search"
					value={text}
					autoFocus={autoFocus}
					onChange={({ target }) => {
						setText(target.value);
						onChoose(null);
					}}
				/>
			</Form.Group>
			<div>
				{others.map(({ id, name, about }) => (
					<Form.Check
						key={id}
						type="radio"
						name="account"
						id={`account-${id}`}
						checked={chosen === id}
						onChange={() => onChoose(id)}
						label={`${name}, ${about}`}
					/>
				))}
				{found?.ok && !others.length && <p className="second small-text mb-0">No other account has these words in its name.</p>}
				{found && !found.ok && <p className="worse small-text mb-0">{found.detail}</p>}
			</div>
		</>
	);
}
