"use client";
import type { KeyboardEvent } from "react";
import { Button } from "react-bootstrap";
import ReactGridLayout, { type Layout, useContainerWidth } from "react-grid-layout";
import type { Board } from "../server/boards";
import { COLUMNS, type Nudge, nudge, settle } from "../table/layout";
import "react-grid-layout/css/styles.css";

type Tile = Board["tiles"][number];
const ROW = 34;
const GAP = 12;

const KEYS: Readonly<Record<string, readonly [plain: Nudge, shifted: Nudge]>> = {
	ArrowLeft: ["left", "narrower"],
	ArrowRight: ["right", "wider"],
	ArrowUp: ["up", "shorter"],
	ArrowDown: ["down", "taller"],
};

interface Props {
	readonly tiles: readonly Tile[];
	readonly titleOf: (tile: Tile) => string;
	/** makes the tiles anew from what they are by then: keys come faster than pages are drawn */
	readonly onTiles: (next: (now: readonly Tile[]) => readonly Tile[]) => void;
	readonly onEdit: (tile: Tile) => void;
}

/** The board while it is arranged: tiles are dragged and pulled at a corner, or moved by the arrow keys and resized with Shift. */
export function Arranging({ tiles, titleOf, onTiles, onEdit }: Props) {
	// Long: what is dragged and what is typed are one state.
	const { width, containerRef, mounted } = useContainerWidth();
	// only what a hand did: the grid also reports the places it was just given, and they may be old by then
	const placed = (layout: Layout) => {
		const places = new Map(layout.map(({ i, x, y, w, h }) => [i, { x, y, w, h }]));
		onTiles((now) => settle(now.map((tile) => ({ ...tile, ...places.get(tile.id) }))));
	};
	const remove = (gone: Tile) => onTiles((now) => settle(now.filter(({ id }) => id !== gone.id)));
	const press = (event: KeyboardEvent, tile: Tile) => {
		if (event.target !== event.currentTarget) return;
		if (event.key === "Delete" || event.key === "Backspace") {
			event.preventDefault();
			return remove(tile);
		}
		if (event.key === "Enter") return onEdit(tile);
		const how = KEYS[event.key]?.[event.shiftKey ? 1 : 0];
		if (!how) return;
		event.preventDefault();
		onTiles((now) => nudge(now, tile.id, how));
	};
	return (
		<>
			<p className="second small-text">
				Drag a tile, or drag its corner to resize it. By keys: Tab to a tile, arrows move it, Shift and arrows resize it, Enter changes it, Delete removes it.
			</p>
			{/* the grid would write its rule about selected text into the page, which the page's policy forbids: it finds it done, in boards.css */}
			<i id="react-draggable-style-el" hidden />
			<div ref={containerRef}>
				{mounted && (
					<ReactGridLayout
						width={width}
						layout={tiles.map(({ id, x, y, w, h }) => ({ i: id, x, y, w, h, minW: 2, minH: 2 }))}
						gridConfig={{ cols: COLUMNS, rowHeight: ROW, margin: [GAP, GAP], containerPadding: [0, 0] }}
						dragConfig={{ cancel: "button" }}
						onDragStop={placed}
						onResizeStop={placed}
					>
						{tiles.map((tile) => (
							<div
								key={tile.id}
								className="panel board-arranged"
								tabIndex={0}
								role="group"
								aria-label={`${titleOf(tile) || "Text"}, ${placeWords(tile)}`}
								onKeyDown={(event) => press(event, tile)}
							>
								<b>{titleOf(tile) || "Text"}</b>
								<span className="second small-text d-block">{placeWords(tile)}</span>
								<span className="board-arranged-acts">
									<Button size="sm" variant="link" onClick={() => onEdit(tile)}>
										Change
									</Button>
									<Button size="sm" variant="link" onClick={() => remove(tile)}>
										Remove
									</Button>
								</span>
							</div>
						))}
					</ReactGridLayout>
				)}
			</div>
		</>
	);
}

const placeWords = ({ x, y, w, h }: Tile) => `column ${x + 1}, row ${y + 1}, ${w} wide, ${h} tall`;
