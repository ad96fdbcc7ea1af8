"use client";
import { useState } from "react";
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
	const [naming, setNaming] = useState<string | null>(null);
	const [opening, setOpening] = useState(false);
	if (naming !== null)
		return (
			<Form
				className="d-flex gap-2"
				onSubmit={(event) => {
					event.preventDefault();
					void act(run("boards.change", { id: board.id, version: board.version, name: naming }), "The board has another name.").then(
						(done) => done && setNaming(null),
					);
				}}
			>
				<Form.Control size="sm" autoFocus value={naming} maxLength={80} aria-label="Name of the board" onChange={(event) => setNaming(event.target.value)} />
				<Button size="sm" type="submit">
					Rename
				</Button>
			</Form>
		);
	return (
		<>
			<Dropdown align="end">
				<Dropdown.Toggle size="sm" variant="link">
					More
				</Dropdown.Toggle>
				<Dropdown.Menu>
					<Dropdown.Item as="button" type="button" onClick={() => setNaming(board.name)}>
						Rename
					</Dropdown.Item>
					<Dropdown.Item
						as="button"
						type="button"
						onClick={() =>
							void act(
								run("boards.openWith", { id: board.opening ? null : board.id }),
								board.opening ? "The program no longer opens with this board." : "The program now opens with this board.",
							)
						}
					>
						{board.opening ? "Don’t open the program with it" : "Open the program with it"}
					</Dropdown.Item>
					{readers.length > 0 && (
						<Dropdown.Item as="button" type="button" onClick={() => setOpening(true)}>
							Set as start page for others …
						</Dropdown.Item>
					)}
					{board.own && (
						<Dropdown.Item
							as="button"
							type="button"
							onClick={() =>
								void act(
									run("boards.change", { id: board.id, version: board.version, shared: board.sharedWith === null }),
									board.sharedWith === null ? "Shared with your team." : "Now private: only you see it.",
								)
							}
						>
							{board.sharedWith === null ? "Share it with my team" : "Make private"}
						</Dropdown.Item>
					)}
					{board.own && (
						<Dropdown.Item
							as="button"
							type="button"
							onClick={() =>
								void act(run("boards.remove", { id: board.id }), `${board.name} deleted.`, () =>
									run("boards.make", { name: board.name, tiles: [...board.tiles], shared: board.sharedWith !== null }),
								).then((done) => done && onGone())
							}
						>
							Delete
						</Dropdown.Item>
					)}
				</Dropdown.Menu>
			</Dropdown>
			{opening && <OpensFor board={board} readers={readers} onClose={() => setOpening(false)} />}
		</>
	);
}
