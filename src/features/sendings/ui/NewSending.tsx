"use client";
import { useState } from "react";
import { Button, Form } from "react-bootstrap";
import { useRun } from "@/ui/run";
import { useAct } from "@/ui/useAct";
import type { SendingsView } from "../server/sendings";
import { DAYS } from "./rhythmWords";
import "./sendings.css";

type Choices = NonNullable<SendingsView["choices"]>;
type Rhythm = SendingsView["sendings"][number]["rhythm"];

interface Draft {
	readonly kind: string;
	readonly of: string;
	readonly whose: string;
	readonly rhythm: Rhythm;
	readonly at: string;
	readonly to: readonly string[];
	readonly attach: boolean;
	readonly skipSame: boolean;
}

const WORKING_DAYS = [1, 2, 3, 4, 5];
const EMPTY: Draft = { kind: "period", of: "", whose: "", rhythm: { kind: "weekdays", days: [1] }, at: "07:30", to: [], attach: false, skipSame: false };

/** Has something sent by itself: what, whose, when, to whom. */
export function NewSending({ choices }: { choices: Choices }) {
	// Long: one form, its fields in their order.
	const [draft, setDraft] = useState<Draft>(EMPTY);
	const set = (part: Partial<Draft>) => setDraft({ ...draft, ...part });
	const run = useRun();
	const act = useAct();
	const kind = choices.kinds.find(({ key }) => key === draft.kind);
	const ready = draft.to.length > 0 && (!kind?.of || draft.of !== "");
	const send = async () => {
		const done = await act(run("sendings.save", { ...draft, to: [...draft.to] }), "It will be sent.", ({ id }) => run("sendings.end", { id }));
		if (done) setDraft(EMPTY);
	};
	return (
		<section className="panel">
			<h2>Have something sent</h2>
			<Form
				className="company-fields"
				onSubmit={(event) => {
					event.preventDefault();
					void send();
				}}
			>
				<Form.Group controlId="sending-kind">
					<Form.Label>What</Form.Label>
					<Form.Select value={draft.kind} onChange={({ target }) => set({ kind: target.value, of: "", whose: "" })}>
						{choices.kinds.map(({ key, label }) => (
							<option key={key} value={key}>
								{label}
							</option>
						))}
					</Form.Select>
				</Form.Group>
				{kind?.of && <Which of={kind.of} chosen={draft.of} set={(of) => set({ of })} />}
				{!kind?.own && (
					<Form.Group controlId="sending-whose">
						<Form.Label>Whose deals</Form.Label>
						<Form.Select value={draft.whose} onChange={({ target }) => set({ whose: target.value })}>
							<option value="">each recipient’s own</option>
							<option value="all">all that each recipient sees</option>
							{choices.whose.map(({ key, label }) => (
								<option key={key} value={key}>
									{label}
								</option>
							))}
						</Form.Select>
					</Form.Group>
				)}
				<RhythmFields rhythm={draft.rhythm} at={draft.at} plans={choices.plans} set={set} />
				<Recipients people={choices.people} to={draft.to} set={(to) => set({ to })} />
				<div className="company-wide">
					<Form.Check
						id="sending-attach"
						label="With the whole table as a workbook"
						checked={draft.attach}
						onChange={({ target }) => set({ attach: target.checked })}
					/>
					<Form.Check
						id="sending-skip"
						label="Leave it out where nothing moved since it was sent last"
						checked={draft.skipSame}
						onChange={({ target }) => set({ skipSame: target.checked })}
					/>
				</div>
				<div className="company-wide">
					<Button type="submit" disabled={!ready}>
						Send it
					</Button>
				</div>
			</Form>
		</section>
	);
}

/** Which one is sent, of those that somebody may choose. */
function Which({ of, chosen, set }: { of: NonNullable<Choices["kinds"][number]["of"]>; chosen: string; set: (of: string) => void }) {
	return (
		<Form.Group controlId="sending-of">
			<Form.Label>{of.label}</Form.Label>
			<Form.Select value={chosen} onChange={({ target }) => set(target.value)}>
				<option value="">Choose one …</option>
				{of.choices.map(({ id, name }) => (
					<option key={id} value={id}>
						{name}
					</option>
				))}
			</Form.Select>
			<Form.Text>{of.choices.length ? of.hint : "There is none yet."}</Form.Text>
		</Form.Group>
	);
}

/** Those it goes to, ticked in a list. */
function Recipients({ people, to, set }: { people: Choices["people"]; to: readonly string[]; set: (to: readonly string[]) => void }) {
	return (
		<fieldset className="company-wide">
			<legend className="form-label company-legend">To</legend>
			<div className="sending-to">
				{people.map(({ id, name }) => (
					<Form.Check
						key={id}
						id={`sending-to-${id}`}
						label={name}
						checked={to.includes(id)}
						onChange={({ target }) => set(target.checked ? [...to, id] : to.filter((one) => one !== id))}
					/>
				))}
			</div>
			<Form.Text>Only people with a mail address are listed.</Form.Text>
		</fieldset>
	);
}

const RHYTHMS = [
	{ key: "daily", label: "each working day", rhythm: { kind: "weekdays", days: WORKING_DAYS } },
	...DAYS.slice(0, 5).map((name, i) => ({ key: `day${i + 1}`, label: `each ${name}`, rhythm: { kind: "weekdays" as const, days: [i + 1] } })),
	{ key: "month", label: "each month’s first working day", rhythm: { kind: "month" } },
] as const satisfies readonly { key: string; label: string; rhythm: Rhythm }[];

function RhythmFields({ rhythm, at, plans, set }: Pick<Draft, "rhythm" | "at"> & { plans: Choices["plans"]; set: (part: Partial<Draft>) => void }) {
	const rhythms = [
		...RHYTHMS,
		...plans.map(({ id, name }) => ({ key: `round ${id}`, label: `before each ${name}`, rhythm: { kind: "round" as const, plan: id } })),
	];
	const chosen = rhythms.find((one) => JSON.stringify(one.rhythm) === JSON.stringify(rhythm))?.key ?? "";
	return (
		<>
			<Form.Group controlId="sending-rhythm">
				<Form.Label>When</Form.Label>
				<Form.Select value={chosen} onChange={({ target }) => set({ rhythm: rhythms.find(({ key }) => key === target.value)?.rhythm ?? rhythm })}>
					{rhythms.map(({ key, label }) => (
						<option key={key} value={key}>
							{label}
						</option>
					))}
				</Form.Select>
			</Form.Group>
			<Form.Group controlId="sending-at">
				<Form.Label>At</Form.Label>
				<Form.Control type="time" required value={at} onChange={({ target }) => set({ at: target.value })} />
			</Form.Group>
		</>
	);
}
