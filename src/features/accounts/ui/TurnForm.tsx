"use client";
import { useState } from "react";
import { Form } from "react-bootstrap";
import { useRun } from "@/ui/run";
import { useAct } from "@/ui/useAct";
import type { TurnRow } from "../server/readTurns";
import { ActivityFields, type Direction, type Draft } from "./ActivityFields";

/** What is written of a turn: what was said, or when to ask again. */
export type TurnWrite = "log" | "again";

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
	const again = what === "again";
	const [draft, setDraft] = useState<Draft>({
		kind: kinds[0] ?? "call",
		direction: again ? "out" : "both",
		day: again ? later(seen) : seen,
		subject: again ? "Ask again" : "",
	});
	const run = useRun();
	const act = useAct();
	const save = async () => {
		const words = again ? "Planned." : "Logged.";
		const done = row.dealId
			? await act(run("sheet.logActivity", { dealId: row.dealId, ...draft }), words, ({ id }) => run("sheet.settleActivity", { id, what: "back" }))
			: await act(run("accounts.log", { accountId: row.accountId ?? "", ...draft }), words, ({ id }) => run("accounts.unlog", { id }));
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
			<ActivityFields
				draft={draft}
				set={(part) => setDraft({ ...draft, ...part })}
				kinds={kinds}
				directions={again ? [] : SAID}
				dayLabel={again ? "When to ask again" : "Day"}
				today={seen}
				{...(again ? { min: seen } : {})}
				label={again ? "Plan" : "Log"}
				onCancel={close}
			/>
		</Form>
	);
}
