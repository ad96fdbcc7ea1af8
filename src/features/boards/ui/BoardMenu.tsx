"use client";
import { type ReactNode, useState } from "react";
import { Button, Dropdown, Form } from "react-bootstrap";
import { useRun } from "@/ui/run";
import { useAct } from "@/ui/useAct";
import type { Board } from "../server/boards";
import type { BoardReader } from "../server/openings";
import { OpensFor } from "./OpensFor";

/** What else can be done with a board: named, shared, opened with, taken away. */
export function BoardMenu({ board, readers, onGone }: { board: Board; readers: readonly BoardReader[]; onGone: () => void }) {
	const run = useRun();
	const act = useAct();
	const [naming, setNaming] = useState(false);
	const [opening, setOpening] = useState(false);
	if (naming) return <Naming board={board} onDone={() => setNaming(false)} />;
	const change = (part: { shared: boolean }, words: string) => void act(run("boards.change", { id: board.id, version: board.version, ...part }), words);
	const remove = async () => {
		const done = await act(run("boards.remove", { id: board.id }), `${board.name} deleted.`, () =>
			run("boards.make", { name: board.name, tiles: [...board.tiles], shared: board.sharedWith !== null }),
		);
		if (done) onGone();
	};
	return (
		<>
			<Dropdown align="end">
				<Dropdown.Toggle size="sm" variant="link">
					More
				</Dropdown.Toggle>
				<Dropdown.Menu>
					<Item onClick={() => setNaming(true)}>Rename</Item>
					<Item
						onClick={() =>
							void act(
								run("boards.openWith", { id: board.opening ? null : board.id }),
								board.opening ? "The program no longer opens with this board." : "The program now opens with this board.",
							)
						}
					>
						{board.opening ? "Don’t open the program with it" : "Open the program with it"}
					</Item>
					{readers.length > 0 && <Item onClick={() => setOpening(true)}>Set as start page for others …</Item>}
					{board.own && board.sharedWith === null && <Item onClick={() => change({ shared: true }, "Shared with your team.")}>Share it with my team</Item>}
					{board.own && board.sharedWith !== null && <Item onClick={() => change({ shared: false }, "Now private: only you see it.")}>Make private</Item>}
					{board.own && <Item onClick={() => void remove()}>Delete</Item>}
				</Dropdown.Menu>
			</Dropdown>
			{opening && <OpensFor board={board} readers={readers} onClose={() => setOpening(false)} />}
		</>
	);
}

const Item = ({ onClick, children }: { onClick: () => void; children: ReactNode }) => (
	<Dropdown.Item as="button" type="button" onClick={onClick}>
		{children}
	</Dropdown.Item>
);

function Naming({ board, onDone }: { board: Board; onDone: () => void }) {
	const run = useRun();
	const act = useAct();
	const [name, setName] = useState(board.name);
	const rename = async () => {
		if (await act(run("boards.change", { id: board.id, version: board.version, name }), "The board has another name.")) onDone();
	};
	return (
		<Form
			className="d-flex gap-2"
			onSubmit={(event) => {
				event.preventDefault();
				void rename();
			}}
		>
			<Form.Control size="sm" autoFocus value={name} maxLength={80} aria-label="Name of the board" onChange={(event) => setName(event.target.value)} />
			<Button size="sm" type="submit">
				Rename
			</Button>
		</Form>
	);
}
