"use client";
import Link from "next/link";
import { useRouter } from "next/navigation";
import { useState } from "react";
import { Button, Form } from "react-bootstrap";
import { plural } from "@/core/words/grammar";
import { useAddress } from "@/ui/frame/address";
import { useRun } from "@/ui/run";
import { useAct } from "@/ui/useAct";
import type { Board } from "../server/boards";
import { settle } from "../table/layout";
import "./boards.css";

/** What a first board begins with: enough to see what a board is. */
type Tile = Board["tiles"][number];
const FIRST = settle<Tile>([
	{ id: "won", kind: "figure", x: 0, y: 0, w: 3, h: 3, title: "", settings: { figure: "won" } },
	{ id: "gap", kind: "figure", x: 3, y: 0, w: 3, h: 3, title: "", settings: { figure: "gap" } },
	{ id: "cover", kind: "figure", x: 6, y: 0, w: 3, h: 3, title: "", settings: { figure: "cover" } },
	{ id: "act", kind: "figure", x: 9, y: 0, w: 3, h: 3, title: "", settings: { figure: "act" } },
	{ id: "pace", kind: "pace", x: 0, y: 3, w: 7, h: 9, title: "", settings: {} },
	{ id: "deals", kind: "deals", x: 7, y: 3, w: 5, h: 9, title: "", settings: { status: "open", field: "level", value: "act", order: "score" } },
]);

/** The boards one sees, and a way to make another. */
export function BoardsList({ boards }: { boards: readonly Board[] }) {
	// Long: one page, its parts in their order.
	const [name, setName] = useState("");
	const run = useRun();
	const act = useAct();
	const router = useRouter();
	const address = useAddress();
	const make = async (tiles: readonly Tile[]) => {
		const made = await act(run("boards.make", { name: name.trim() || "My board", tiles: tiles.map((tile) => ({ ...tile, settings: { ...tile.settings } })) }));
		if (made) router.push(address(`/period/boards/${made.result.id}`));
	};
	return (
		<div className="boards-list">
			<section className="panel">
				<h2>Boards</h2>
				<p className="second">Pages of your own: figures, lists, charts, saved views and texts, arranged as you like. All of them follow the sentence above.</p>
				<ul className="rows">
					{boards.map((board) => (
						<li key={board.id}>
							<span>
								<Link href={address(`/period/boards/${board.id}`)}>
									<b>{board.name}</b>
								</Link>
								<span className="second small-text d-block">
									{plural(board.tiles.length, "tile")}
									{board.own ? "" : `, by ${board.by}`}
									{board.sharedWith ? `, shared with ${board.sharedWith}` : ""}
									{board.opening ? ", opens the program" : ""}
								</span>
							</span>
						</li>
					))}
					{!boards.length && <li className="second">No boards yet. Create one below.</li>}
				</ul>
			</section>
			<section className="panel no-print" aria-label="A new board">
				<h3>A new board</h3>
				<Form
					className="d-grid gap-2"
					onSubmit={(event) => {
						event.preventDefault();
						void make(FIRST);
					}}
				>
					<Form.Control
						size="sm"
						value={name}
						maxLength={80}
						placeholder="My board"
						aria-label="Name of the new board"
						onChange={(event) => setName(event.target.value)}
					/>
					<div className="d-flex gap-2">
						<Button size="sm" type="submit">
							Create with a few tiles
						</Button>
						<Button size="sm" variant="outline-primary" onClick={() => void make([])}>
							Create empty
						</Button>
					</div>
				</Form>
			</section>
		</div>
	);
}
