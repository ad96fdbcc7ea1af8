"use client";
import { Form } from "react-bootstrap";
import type { Given, Need } from "@/core/deal/needs";
import { DayField } from "@/ui/parts/DayField";
import type { EditChoices } from "../../server/editChoices";

interface Props {
	readonly needs: readonly Need[];
	readonly extra: Record<string, string>;
	readonly setExtra: (extra: Record<string, string>) => void;
	readonly choices: EditChoices;
	readonly today: string;
}

/** Asks for it. */
export function Needed({ needs, extra, setExtra, choices, today }: Props) {
	const of = (name: string) => ({
		size: "sm" as const,
		value: extra[name] ?? "",
		onChange: (event: { target: { value: string } }) => setExtra({ ...extra, [name]: event.target.value }),
	});
	return needs.map(({ name, label, must }) => (
		<Form.Group key={name} controlId={`need-${name}`} className="mt-2">
			<Form.Label className="small-text mb-0">{label}</Form.Label>
			{name === "closedOn" ? (
				<DayField size="sm" max={today} required value={extra[name] ?? ""} onDay={(day) => setExtra({ ...extra, [name]: day })} />
			) : name === "outcomeReason" && choices.reasons.length ? (
				<Form.Select required {...of(name)}>
					<option value="">Choose a reason</option>
					{choices.reasons.map((reason) => (
						<option key={reason}>{reason}</option>
					))}
				</Form.Select>
			) : (
				<>
					<Form.Control
						required={must}
						maxLength={name === "reason" ? 1000 : 200}
						list={name === "competitor" ? "known-competitors" : undefined}
						{...of(name)}
					/>
					{name === "competitor" && (
						<datalist id="known-competitors">
							{choices.competitors.map((competitor) => (
								<option key={competitor} value={competitor} />
							))}
						</datalist>
					)}
				</>
			)}
		</Form.Group>
	));
}

/** The answers to what a change needs. */
export const given = (needs: readonly Need[], extra: Record<string, string>): Given =>
	Object.fromEntries(needs.map(({ name }) => [name, extra[name]?.trim() || (name === "competitor" ? null : "")]));
