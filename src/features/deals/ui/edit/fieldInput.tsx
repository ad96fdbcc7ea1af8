"use client";
import type { ReactNode } from "react";
import { Form } from "react-bootstrap";
import { FIELDS, type VersionedField } from "@/core/deal/fields";
import type { DealState, FieldKey, FieldValue } from "@/core/deal/state";
import { parseAmount } from "@/core/money/amount";
import { exponentOf } from "@/core/money/currency";
import { currencySign, spaced } from "@/ui/format";
import { DayField } from "@/ui/parts/DayField";
import type { Input } from "@/ui/run";
import type { EditChoices } from "../../server/editChoices";

export type EditInput = Input<"deals.edit">["change"];
/** What stands in the controls of a deal's fields. */
export type Typed = Readonly<Partial<Record<FieldKey, string>>>;

/** The fields that are changed in a box of their own, in the order they are offered. */
const OFFERED: readonly FieldKey[] = ["closeDate", "amount", "stage", "category", "nextStep", "ownerId"];
const alone = FIELDS.filter((field) => field.edited === "alone");
export const EDIT_FIELDS: readonly VersionedField[] = [
	...OFFERED.flatMap((key) => alone.find((field) => field.key === key) ?? []),
	...alone.filter((field) => !OFFERED.includes(field.key)),
];

/** The fields of a box: its own, and those that are changed along with it. */
export const fieldsOf = (key: FieldKey): readonly VersionedField[] => FIELDS.filter((field) => field.key === key || field.edited === key);

/** A field's value as it is typed. */
function typedAs({ kind }: VersionedField, value: FieldValue, currency: string): string {
	if (value === null) return "";
	if (kind !== "money") return String(value);
	const places = exponentOf(currency) ?? 2;
	return (Number(value) / 10 ** places).toFixed(Number(value) % 10 ** places ? places : 0);
}

/** A state as it is typed. */
export const typedState = (state: DealState, currency: string): Typed =>
	Object.fromEntries(FIELDS.map((field) => [field.key, typedAs(field, state[field.key], currency)]));

/** The change that a box's texts ask for; a string says what is wrong with them. */
export function changeOf(key: FieldKey, typed: Typed, currency: string): EditInput | string {
	const change: Partial<Record<FieldKey, FieldValue>> = {};
	for (const field of fieldsOf(key)) {
		const text = typed[field.key]?.trim() ?? "";
		const value = field.kind === "money" ? moneyOf(text, currency) : field.kind === "stage" ? text : text || null;
		if (value instanceof Error) return value.message;
		change[field.key] = value;
	}
	return change as EditInput;
}

function moneyOf(text: string, currency: string): number | null | Error {
	const bare = text.replace(/[\s\u00a0’']/g, "");
	if (!bare) return null;
	const amount = parseAmount(bare, currency);
	return typeof amount === "string" ? new Error(`“${text}” isn’t an amount in ${currency}; write it like 41250 or 41250.50.`) : amount;
}

interface Props {
	readonly field: FieldKey;
	readonly typed: Typed;
	readonly set: (typed: Typed) => void;
	readonly currency: string;
	/** the present owner's id, where there is one */
	readonly owner: string | null;
	readonly choices: EditChoices;
}

/** The controls of a box: one for each of its fields, by the field's kind. */
export function FieldInputs({ field: key, typed, set, currency, owner, choices }: Props) {
	return fieldsOf(key).map((field, i) => {
		const common: Common = {
			size: "sm",
			"aria-label": field.label,
			value: typed[field.key] ?? "",
			autoFocus: i === 0,
			onChange: (event) => set({ ...typed, [field.key]: event.target.value }),
		};
		return (
			<div key={field.key} className={i > 0 ? "mt-1" : undefined}>
				{CONTROLS[field.kind]({ common, currency, owner, choices })}
			</div>
		);
	});
}

interface Common {
	readonly size: "sm";
	readonly "aria-label": string;
	readonly value: string;
	readonly autoFocus: boolean;
	readonly onChange: (event: { target: { value: string } }) => void;
}
interface Made {
	readonly common: Common;
	readonly currency: string;
	readonly owner: string | null;
	readonly choices: EditChoices;
}

const CONTROLS: Readonly<Record<VersionedField["kind"], (made: Made) => ReactNode>> = {
	day: ({ common: { onChange, ...common } }) => <DayField {...common} onDay={(value) => onChange({ target: { value } })} />,
	text: ({ common }) => <Form.Control placeholder="Next step" maxLength={500} {...common} />,
	currency: ({ common }) => <Form.Control maxLength={3} {...common} />,
	money: ({ common, currency }) => (
		<div className="input-group input-group-sm">
			<span className="input-group-text">{currencySign(currency).trim()}</span>
			<Form.Control inputMode="decimal" {...common} />
		</div>
	),
	stage: ({ common, choices }) => (
		<Form.Select {...common}>
			{choices.stages.map((stage) => (
				<option key={stage.name}>{stage.name}</option>
			))}
		</Form.Select>
	),
	category: ({ common, choices }) => (
		<Form.Select {...common}>
			<option value="">no category</option>
			{choices.categories.map((category) => (
				<option key={category} value={category}>
					{spaced(category)}
				</option>
			))}
		</Form.Select>
	),
	person: ({ common, owner, choices }) => (
		<Form.Select {...common}>
			<option value="">nobody</option>
			{owner && !choices.owners.some((one) => one.id === owner) && <option value={owner}>current owner</option>}
			{choices.owners.map((one) => (
				<option key={one.id} value={one.id}>
					{one.name}
				</option>
			))}
		</Form.Select>
	),
};
