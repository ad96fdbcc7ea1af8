"use client";
import { useState } from "react";
import { Button, Form } from "react-bootstrap";
import type { Move } from "@/core/period/try";
import { spaced } from "@/ui/format";
import type { TryGround } from "../server/tryGround";

type Field = Move["whom"]["field"];

const FIELDS: readonly { readonly field: Field; readonly label: string }[] = [
	{ field: "category", label: "category" },
	{ field: "stage", label: "stage" },
	{ field: "owner", label: "rep" },
	{ field: "level", label: "attention" },
	{ field: "flag", label: "flag" },
	{ field: "deal", label: "name" },
];

/** One move of a whole group: which deals, what becomes of them, and what share of each. */
export function MoveForm({ ground, onAdd }: { ground: TryGround; onAdd: (move: Move) => void }) {
	// Long: one form, its fields in their order.
	const [field, setField] = useState<Field>("category");
	const [value, setValue] = useState("best_case");
	const [what, setWhat] = useState<Move["what"]>("win");
	const [percent, setPercent] = useState("100");
	const values =
		field === "flag"
			? ground.flags.map(({ code }) => code)
			: field === "deal"
				? ground.deals.map(({ id }) => id)
				: [...new Set(ground.deals.map((deal) => deal[field]))].sort();
	const names = new Map(ground.deals.map((deal) => [deal.id, `${deal.name}, ${deal.account}`]));
	const chosen = values.includes(value) ? value : (values[0] ?? "");
	const share = Number(percent);
	const bad = !Number.isFinite(share) || share < 0 || (what === "price" ? share > 1000 : share <= 0 || share > 100);
	return (
		<Form
			className="move-form"
			onSubmit={(event) => {
				event.preventDefault();
				if (!bad && chosen) onAdd({ whom: { field, value: chosen }, what, percent: share });
			}}
		>
			<span>Deals by</span>
			<Form.Select size="sm" aria-label="Field" value={field} onChange={(event) => setField(event.target.value as Field)}>
				{FIELDS.map((one) => (
					<option key={one.field} value={one.field}>
						{one.label}
					</option>
				))}
			</Form.Select>
			<Form.Select size="sm" aria-label="Value" value={chosen} onChange={(event) => setValue(event.target.value)}>
				{values.map((one) => (
					<option key={one} value={one}>
						{field === "deal" ? names.get(one) : field === "owner" ? one : spaced(one).replaceAll("-", " ")}
					</option>
				))}
			</Form.Select>
			<Form.Select size="sm" aria-label="Move" value={what} onChange={(event) => setWhat(event.target.value as Move["what"])}>
				<option value="win">are won</option>
				<option value="drop">are dropped</option>
				<option value="push">are pushed out</option>
				<option value="price">are priced at</option>
			</Form.Select>
			<span className="d-flex align-items-center gap-1">
				<Form.Control
					size="sm"
					inputMode="decimal"
					className="setting"
					aria-label="Share in %"
					isInvalid={bad}
					value={percent}
					onChange={(event) => setPercent(event.target.value)}
				/>
				%
			</span>
			<Button size="sm" type="submit" disabled={bad || !chosen}>
				Move
			</Button>
		</Form>
	);
}
