"use client";
import { parseAsInteger, useQueryStates } from "nuqs";
import { useTransition } from "react";
import { Form } from "react-bootstrap";

const QUARTERS = [1, 2, 4, 6, 8];
const LEADS = [5, 10, 20, 40];

/** The sentence of a look back: how many quarters, and how many working days before each end. */
export function Looking({ look, lead }: { look: { readonly quarters: number; readonly lead: number }; lead: string }) {
	const [waiting, start] = useTransition();
	const [, set] = useQueryStates({ quarters: parseAsInteger, lead: parseAsInteger }, { shallow: false, history: "replace", startTransition: start });
	return (
		<p className={`looking ${waiting ? "waiting" : ""}`}>
			{lead} in the last{" "}
			<Form.Select size="sm" aria-label="How many quarters" value={look.quarters} onChange={(event) => void set({ quarters: Number(event.target.value) })}>
				{[...new Set([...QUARTERS, look.quarters])].map((n) => (
					<option key={n} value={n}>
						{n} {n === 1 ? "quarter" : "quarters"}
					</option>
				))}
			</Form.Select>
			, looked at{" "}
			<Form.Select
				size="sm"
				aria-label="How many working days before each end"
				value={look.lead}
				onChange={(event) => void set({ lead: Number(event.target.value) })}
			>
				{[...new Set([...LEADS, look.lead])].map((n) => (
					<option key={n} value={n}>
						{n} working days
					</option>
				))}
			</Form.Select>{" "}
			before each end
		</p>
	);
}
