"use client";
import { useState } from "react";
import { Button, Form } from "react-bootstrap";
import { DayField } from "@/ui/parts/DayField";
import { type Input, useRun } from "@/ui/run";
import { useAct } from "@/ui/useAct";
import type { AccountPage } from "../server/accountPageView";

type Direction = Input<"accounts.log">["direction"];
const DIRECTIONS: readonly (readonly [Direction, string])[] = [
	["both", "a conversation"],
	["out", "we to them"],
	["in", "they to us"],
	["none", "internal"],
];

/** Logs something beside the deals: what was said, or what is planned on a day to come. */
export function LogForm({ view }: { view: AccountPage }) {
	const [open, setOpen] = useState(false);
	if (!open)
		return (
			<Button size="sm" variant="outline-primary" className="no-print mb-2" onClick={() => setOpen(true)}>
				Log something
			</Button>
		);
	return <Fields view={view} close={() => setOpen(false)} />;
}

const KINDS_BESIDE = ["order", "deal"];

function Fields({ view, close }: { view: AccountPage; close: () => void }) {
	// Long: one form, its fields in their order.
	const kinds = view.choices.kinds.filter((kind) => !KINDS_BESIDE.includes(kind));
	const [kind, setKind] = useState(kinds[0] ?? "call");
	const [direction, setDirection] = useState<Direction>("both");
	const [contact, setContact] = useState("");
	const [day, setDay] = useState(view.seen);
	const [subject, setSubject] = useState("");
	const run = useRun();
	const act = useAct();
	const save = async () => {
		const given = { accountId: view.id, kind, direction, subject, day, contactIds: contact ? [contact] : [] };
		const done = await act(run("accounts.log", given), "Logged.", ({ id }) => run("accounts.unlog", { id }));
		if (done) close();
	};
	return (
		<Form
			className="account-form no-print"
			onSubmit={(event) => {
				event.preventDefault();
				void save();
			}}
		>
			<Form.Select size="sm" aria-label="Kind of activity" value={kind} onChange={({ target }) => setKind(target.value)}>
				{kinds.map((one) => (
					<option key={one}>{one}</option>
				))}
			</Form.Select>
			<Form.Select size="sm" aria-label="Direction" value={direction} onChange={({ target }) => setDirection(target.value as Direction)}>
				{DIRECTIONS.map(([key, words]) => (
					<option key={key} value={key}>
						{words}
					</option>
				))}
			</Form.Select>
			<Form.Select size="sm" aria-label="With" value={contact} onChange={({ target }) => setContact(target.value)}>
				<option value="">with nobody named</option>
				{view.people.map(({ id, name }) => (
					<option key={id} value={id}>
						{name}
					</option>
				))}
			</Form.Select>
			<DayField size="sm" aria-label="Day" value={day} onDay={(next) => setDay(next || view.seen)} />
			<Form.Control
				size="sm"
				className="account-subject"
				aria-label="What was it about?"
				placeholder="What was it about?"
				autoFocus
				value={subject}
				onChange={({ target }) => setSubject(target.value)}
			/>
			<Button size="sm" type="submit" disabled={!subject.trim()}>
				Log
			</Button>
			<Button size="sm" variant="link" onClick={close}>
				Cancel
			</Button>
		</Form>
	);
}
