"use client";
import { useState } from "react";
import { Button, Form } from "react-bootstrap";
import { nearDate } from "@/ui/format";
import { type Input, useRun } from "@/ui/run";
import { useAct } from "@/ui/useAct";
import type { SheetView } from "../server/sheetView";

type BuyingRole = Input<"sheet.setRole">["role"];

const ROLES = [
	["decision_maker", "signs"],
	["champion", "champion"],
	["influencer", "has a say"],
	["user", "will use it"],
	["blocker", "is against it"],
	["unknown", "role unknown"],
] as const;
const roleWord = (role: string | null) => ROLES.find(([key]) => key === role)?.[1] ?? "role unknown";

/** Who is on the buyer's side, under whom, what part each plays, and when each was last spoken to; and who is missing. */
export function People({ view }: { view: SheetView }) {
	// Long: one table, its columns in their order.
	const run = useRun();
	const act = useAct();
	return (
		<section>
			<h3>People</h3>
			<ul className="rows small-text">
				{view.people.map((person) => (
					<li key={person.id}>
						<span style={{ paddingLeft: `${person.depth * 0.9}rem` }}>
							{person.depth > 0 && <span aria-hidden="true">└ </span>}
							<b>{person.name}</b> <span className="second">{person.title}</span>
							{person.depth > 0 && <span className="visually-hidden"> reports to {view.people.find((p) => p.id === person.reportsTo)?.name}</span>}
							<span className={`d-block tiny ${person.last ? "second" : "worse"}`}>
								{person.last ? `last spoken to ${nearDate(person.last, view.seen)}` : "never spoken to"}
							</span>
						</span>
						{view.mayEdit ? (
							<span className="d-flex align-items-center no-print">
								<Form.Select
									size="sm"
									className="role-select"
									aria-label={`Role of ${person.name}`}
									value={person.role ?? "unknown"}
									onChange={(event) =>
										void act(
											run("sheet.setRole", { dealId: view.id, contactId: person.id, role: event.target.value as BuyingRole }),
											`${person.name} ${roleWord(event.target.value)}.`,
											() => run("sheet.setRole", { dealId: view.id, contactId: person.id, role: (person.role ?? "unknown") as BuyingRole }),
										)
									}
								>
									{ROLES.map(([key, words]) => (
										<option key={key} value={key}>
											{words}
										</option>
									))}
								</Form.Select>
								<button
									type="button"
									className="plain-button step-remove"
									aria-label={`Remove ${person.name} from the deal`}
									title="Remove"
									onClick={() =>
										void act(run("sheet.removePerson", { dealId: view.id, contactId: person.id }), `${person.name} removed from the deal.`, () =>
											run("sheet.addPerson", { dealId: view.id, who: { contactId: person.id } }),
										)
									}
								>
									×
								</button>
							</span>
						) : (
							<span className="second text-nowrap">{roleWord(person.role)}</span>
						)}
					</li>
				))}
				{view.missing.map((role) => (
					<li key={role} className="worse">
						<span>
							<b>Missing:</b> {role}
						</span>
					</li>
				))}
			</ul>
			{view.mayEdit && <AddPerson view={view} />}
		</section>
	);
}

const NEW = "new";

function AddPerson({ view }: { view: SheetView }) {
	// Long: one form, its fields in their order.
	const [who, setWho] = useState("");
	const [name, setName] = useState("");
	const [role, setRole] = useState<BuyingRole>("unknown");
	const run = useRun();
	const act = useAct();
	const add = async () => {
		const given = who === NEW ? { name, title: null, role } : { contactId: who };
		const done = await act(run("sheet.addPerson", { dealId: view.id, who: given }), "Added to the deal.", (made) =>
			run("sheet.removePerson", { dealId: view.id, contactId: made.id }),
		);
		if (!done) return;
		setWho("");
		setName("");
	};
	return (
		<Form
			className="step-line no-print"
			aria-label="Add person"
			onSubmit={(event) => {
				event.preventDefault();
				void add();
			}}
		>
			<Form.Select size="sm" className="flex-grow-1" aria-label="Who" value={who} onChange={(event) => setWho(event.target.value)}>
				<option value="">Add person …</option>
				{view.others.map((other) => (
					<option key={other.id} value={other.id}>
						{other.name}
						{other.title && `, ${other.title}`}
					</option>
				))}
				<option value={NEW}>a new person</option>
			</Form.Select>
			{who === NEW && (
				<>
					<Form.Control
						size="sm"
						aria-label="Name of the person"
						placeholder="Name"
						maxLength={200}
						required
						autoFocus
						value={name}
						onChange={(event) => setName(event.target.value)}
					/>
					<Form.Select size="sm" aria-label="Buying role" value={role} onChange={(event) => setRole(event.target.value as BuyingRole)}>
						{ROLES.map(([key, words]) => (
							<option key={key} value={key}>
								{words}
							</option>
						))}
					</Form.Select>
				</>
			)}
			<Button size="sm" variant="outline-primary" type="submit" disabled={!who || (who === NEW && !name.trim())}>
				Add
			</Button>
		</Form>
	);
}
