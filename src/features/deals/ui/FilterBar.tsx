"use client";
import { useState } from "react";
import { Button, Dropdown, Form } from "react-bootstrap";
import { currencySign } from "@/ui/format";
import { DayField } from "@/ui/parts/DayField";
import { choicesOf, FILTERS, type Filter, type FilterField, filterWords } from "../filters";
import type { DealRow } from "../table/row";

interface Props {
	readonly rows: readonly DealRow[];
	readonly filters: readonly Filter[];
	readonly currency: string;
	readonly set: (filters: readonly Filter[]) => void;
}

const OP_WORDS: Record<string, string> = {
	from: "from",
	to: "up to",
	within: "within the next",
	over: "more than",
	before: "before",
	after: "after",
	in: "is",
	has: "has",
};
const UNIT_WORDS: Record<string, string> = { percent: "%", points: "points", "working days": "working days", days: "days", times: "", amount: "", day: "" };

/** Adds a condition: first on what, then how much. */
export function FilterMenu({ rows, filters, currency, set }: Props) {
	const [field, setField] = useState<FilterField | null>(null);
	const [open, setOpen] = useState(false);
	const add = (filter: Filter) => {
		set([...filters.filter((other) => other.field !== filter.field || other.op !== filter.op), filter]);
		setOpen(false);
		setField(null);
	};
	return (
		<Dropdown
			show={open}
			autoClose="outside"
			onToggle={(next) => {
				setOpen(next);
				setField(null);
			}}
		>
			<Dropdown.Toggle size="sm" variant="outline-primary">
				Filter
			</Dropdown.Toggle>
			<Dropdown.Menu className="filter-menu">
				{field ? (
					<FilterForm
						key={field.field}
						field={field}
						rows={rows}
						currency={currency}
						now={filters.find((filter) => filter.field === field.field)}
						onAdd={add}
						onBack={() => setField(null)}
					/>
				) : (
					FILTERS.map((found) => (
						<Dropdown.Item as="button" type="button" key={found.field} onClick={() => setField(found)}>
							{found.label}
						</Dropdown.Item>
					))
				)}
			</Dropdown.Menu>
		</Dropdown>
	);
}

interface FormProps {
	readonly field: FilterField;
	readonly rows: readonly DealRow[];
	readonly currency: string;
	readonly now: Filter | undefined;
	readonly onAdd: (filter: Filter) => void;
	readonly onBack: () => void;
}

function FilterForm({ field, rows, currency, now, onAdd, onBack }: FormProps) {
	// Long: one form, its fields in their order.
	const [op, setOp] = useState(now?.op ?? (field.ops[0] as string));
	const [value, setValue] = useState(now?.value ?? "");
	const chosen = new Set(value ? value.split("|") : []);
	const toggle = (choice: string) => {
		const next = new Set(chosen);
		if (!next.delete(choice)) next.add(choice);
		setValue([...next].join("|"));
	};
	return (
		<Form
			className="px-3 py-1"
			onSubmit={(event) => {
				event.preventDefault();
				if (value.trim()) onAdd({ field: field.field, op, value: value.trim() });
			}}
		>
			<button type="button" className="plain-button tiny second mb-1" onClick={onBack}>
				← other fields
			</button>
			<div className="fw-bold mb-1">{field.label}</div>
			{field.unit === "choice" ? (
				<div className="filter-choices">
					{choicesOf(rows, field).map((choice) => (
						<Form.Check
							key={choice.value}
							id={`choice-${field.field}-${choice.value}`}
							label={
								<>
									{choice.value} <span className="third">{choice.count}</span>
								</>
							}
							checked={chosen.has(choice.value)}
							onChange={() => toggle(choice.value)}
						/>
					))}
				</div>
			) : (
				<div className="d-flex gap-2 align-items-center">
					{field.ops.length > 1 && (
						<Form.Select size="sm" className="w-auto" aria-label="Condition" value={op} onChange={(event) => setOp(event.target.value)}>
							{field.ops.map((name) => (
								<option key={name} value={name}>
									{OP_WORDS[name]}
								</option>
							))}
						</Form.Select>
					)}
					{field.unit === "amount" && <span>{currencySign(currency).trim()}</span>}
					{field.unit === "day" ? (
						<DayField size="sm" autoFocus required aria-label={field.label} value={value} onDay={setValue} />
					) : (
						<Form.Control
							size="sm"
							autoFocus
							required
							aria-label={field.label}
							type={field.unit === "text" ? "search" : "number"}
							min={0}
							maxLength={100}
							value={value}
							onChange={(event) => setValue(event.target.value)}
						/>
					)}
					<span className="second small-text text-nowrap">{UNIT_WORDS[field.unit]}</span>
				</div>
			)}
			<Button size="sm" type="submit" className="mt-2" disabled={!value.trim()}>
				Apply
			</Button>
		</Form>
	);
}

/** What is set, as one readable sentence; each part can be taken out. */
export function FilterSentence({ filters, currency, set, looking, children }: Omit<Props, "rows"> & { looking: boolean; children?: React.ReactNode }) {
	if (!filters.length && !children) return null;
	return (
		<p className="filter-sentence small-text" aria-live="polite">
			Only deals with{" "}
			{filters.map((filter, i) => (
				<span key={`${filter.field}${filter.op}`}>
					{i > 0 && ", "}
					<span className="filter-part">
						{filterWords(filter, { currency })}
						<button
							type="button"
							className="plain-button no-print"
							aria-label={`Without: ${filterWords(filter, { currency })}`}
							title="Remove"
							onClick={() => set(filters.filter((other) => other !== filter))}
						>
							×
						</button>
					</span>
				</span>
			))}
			{children}
			{looking && <span className="second"> looking through notes and activities …</span>}
		</p>
	);
}
