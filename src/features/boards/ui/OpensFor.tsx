"use client";
import { useState } from "react";
import { Form } from "react-bootstrap";
import { plural } from "@/core/words/grammar";
import { FormDialog } from "@/ui/parts/FormDialog";
import { useRun } from "@/ui/run";
import { useAct } from "@/ui/useAct";
import type { Board } from "../server/boards";
import type { BoardReader } from "../server/openings";

const OPENS = { this: "", usual: "", shared: "opens with another board", other: "opens with a board of their own choosing" } as const;

/** Chooses for whom the program opens with a board, among those who see it. */
export function OpensFor({ board, readers, onClose }: { board: Board; readers: readonly BoardReader[]; onClose: () => void }) {
	const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set(readers.filter(({ opens }) => opens === "this").map(({ id }) => id)));
	const run = useRun();
	const act = useAct();
	const changed = readers.filter(({ id, opens }) => chosen.has(id) !== (opens === "this"));
	const set = async () => {
		const openings = changed.map(({ id }) => ({ person: id, board: chosen.has(id) ? board.id : null }));
		const words = `${board.name} opens the program for ${plural(chosen.size, "person", "people")}.`;
		const done = await act(run("boards.openFor", { openings }), words, ({ before }) => run("boards.openFor", { openings: [...before] }));
		if (done) onClose();
	};
	return (
		<FormDialog title="Set as start page for others" not={!changed.length} onSave={() => void set()} onClose={onClose}>
			<p className="second">The people you tick see {board.name} first after signing in. They can choose another start page at any time.</p>
			{readers.map(({ id, name, opens }) => (
				<Form.Check
					key={id}
					id={`opens-${id}`}
					checked={chosen.has(id)}
					disabled={opens === "other"}
					onChange={({ target }) => setChosen(new Set(target.checked ? [...chosen, id] : [...chosen].filter((one) => one !== id)))}
					label={
						<>
							{name} <span className="second small-text">{OPENS[opens]}</span>
						</>
					}
				/>
			))}
		</FormDialog>
	);
}
