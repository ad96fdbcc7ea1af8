"use client";
import { Form } from "react-bootstrap";
import { exponentOf } from "@/core/money/currency";
import type { RuleView } from "../../server/flagSettings";

interface SettingProps {
	readonly id: string;
	readonly spec: RuleView["settings"][number];
	readonly value: unknown;
	readonly currency: string;
	readonly bare?: boolean;
	/** what holds where this is left blank */
	readonly hint?: unknown;
	readonly onChange: (value: number | undefined) => void;
}

/** A number by a rule's own description; blank means its standard. Amounts are typed in whole units. */
export function Setting({ id, spec, value, currency, bare = false, hint, onChange }: SettingProps) {
	const { money } = spec;
	const per = money ? 10 ** (exponentOf(currency) ?? 2) : 1;
	const shown = typeof value === "number" ? String(value / per) : "";
	const standard = typeof hint === "number" ? hint / per : spec.standard === null ? "from the data" : spec.standard / per;
	const bad = typeof value === "number" && (value < spec.min || value > spec.max);
	const label = `${spec.label}, in ${money ? currency : spec.unit}`;
	const field = spec.choices ? (
		<Form.Select
			size="sm"
			id={id}
			className="setting"
			aria-label={label}
			value={typeof value === "number" ? value : ""}
			onChange={(event) => onChange(event.target.value === "" ? undefined : Number(event.target.value))}
		>
			<option value="">{standard}</option>
			{spec.choices
				.filter((choice) => choice !== standard)
				.map((choice) => (
					<option key={choice} value={choice}>
						{choice}
					</option>
				))}
		</Form.Select>
	) : (
		<Form.Control
			size="sm"
			type="number"
			id={id}
			className="setting"
			aria-label={label}
			step={spec.max <= 1 ? 0.01 : undefined}
			placeholder={String(standard)}
			value={shown}
			min={spec.min / per}
			max={spec.max / per}
			isInvalid={bad}
			onChange={(event) => onChange(event.target.value === "" ? undefined : Number(event.target.value) * per)}
		/>
	);
	if (bare) return field;
	return (
		<label className="setting-line small-text" htmlFor={id}>
			{spec.label} {field} <span className="second">{money ? currency : spec.unit}</span>
		</label>
	);
}
