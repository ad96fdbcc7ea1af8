"use client";
import { useState } from "react";
import { Button, Form } from "react-bootstrap";
import { DayField } from "@/ui/parts/DayField";
import { type Input, useRun } from "@/ui/run";
import { useAct } from "@/ui/useAct";
import type { TurnRow } from "../server/readTurns";

/** What is written of a turn: what was said, or when to ask again. */
export type TurnWrite = "log" | "again";
type Direction = Input<"accounts.log">["direction"];

const SAID: readonly (readonly [Direction, string])[] = [
	["both", "we spoke"],
	["out", "we wrote or called"],
	["in", "they wrote or called"],
];
const WEEK = 7;
const DAY = 86_400_000;
const later = (iso: string) => new Date(Date.parse(iso) + WEEK * DAY).toISOString().slice(0, 10);

interface Props {
	readonly row: TurnRow;
	readonly what: TurnWrite;
	readonly kinds: readonly string[];
	readonly seen: string;
	readonly close: () => void;
}

/** Logs what was said on a deal or at an account, or plans when to ask again; the line moves on by itself. */
export function TurnForm({ row, what, kinds, seen, close }: Props) {
	// Long: one form, its fields in their order.
	const again = what === "again";
	const [kind, setKind] = useState(kinds[0] ?? "call");
	const [direction, setDirection] = useState<Direction>(again ? "out" : "both");
	const [day, setDay] = useState(again ? later(seen) : seen);
	const [subject, setSubject] = useState(again ? "Ask again" : "");
	const run = useRun();
	const act = useAct();
	const save = async () => {
		const given = { kind, direction, subject, day };
		const words = again ? "Planned." : "Logged.";
		const done = row.dealId
			? await act(run("sheet.logActivity", { dealId: row.dealId, ...given }), words, ({ id }) => run("sheet.settleActivity", { id, what: "back" }))
			: await act(run("accounts.log", { accountId: row.accountId ?? "", ...given }), words, ({ id }) => run("accounts.unlog", { id }));
		if (done) close();
	};
	return (
		<Form
			className="account-form turn-form no-print"
			onKeyDown={(event) => event.key === "Escape" && close()}
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
			{!again && (
				<Form.Select size="sm" aria-label="Direction" value={direction} onChange={({ target }) => setDirection(target.value as Direction)}>
					{SAID.map(([key, words]) => (
						<option key={key} value={key}>
							{words}
						</option>
					))}
				</Form.Select>
			)}
			<DayField
				size="sm"
				aria-label={again ? "When to ask again" : "Day"}
				value={day}
				onDay={(next) => setDay(next || seen)}
				{...(again ? { min: seen } : {})}
			/>
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
				{again ? "Plan" : "Log"}
			</Button>
			<Button size="sm" variant="link" onClick={close}>
				Cancel
			</Button>
		</Form>
	);
}
