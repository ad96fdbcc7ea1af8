"use client";
import { Form } from "react-bootstrap";
import type { EditInput } from "@/ui/actions";
import type { EditChoices } from "../../server/editChoices";

export interface Need {
	readonly name: "reason" | "outcomeReason" | "competitor" | "closedOn";
	readonly question: string;
	/** it can't be left blank */
	readonly must: boolean;
}

/** What a change has to be given with: a push its why; a loss its reason and the competitor; a win its day. */
export function neededFor(change: EditInput, deals: readonly { readonly stage: string; readonly close: string | null }[], choices: EditChoices): Need[] {
	const kindOf = (name: string) => choices.stages.find((stage) => stage.name === name)?.kind;
	const kind = change.stage === undefined ? undefined : kindOf(change.stage);
	const closes = kind !== undefined && kind !== "open" && deals.some((deal) => kindOf(deal.stage) !== kind);
	if (closes && kind === "won") return [{ name: "closedOn", question: "Won on", must: true }];
	if (closes && kind === "lost") {
		return [
			{ name: "outcomeReason", question: "Why was it lost?", must: true },
			{ name: "competitor", question: "To whom? (blank: to nobody)", must: false },
		];
	}
	const { closeDate } = change;
	if (closeDate && deals.some((deal) => deal.close !== null && closeDate > deal.close))
		return [{ name: "reason", question: "Why does it close later?", must: true }];
	return [];
}

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
	return needs.map(({ name, question, must }) => (
		<Form.Group key={name} controlId={`need-${name}`} className="mt-2">
			<Form.Label className="small-text mb-0">{question}</Form.Label>
			{name === "closedOn" ? (
				<Form.Control type="date" max={today} required {...of(name)} />
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
