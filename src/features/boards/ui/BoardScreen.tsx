"use client";
import dynamic from "next/dynamic";
import Link from "next/link";
import { useRouter } from "next/navigation";
import { useEffect, useState } from "react";
import { Button, Dropdown } from "react-bootstrap";
import { useAddress } from "@/ui/frame/address";
import { useRun } from "@/ui/run";
import { useAct, useRefresh } from "@/ui/useAct";
import type { Board } from "../server/boards";
import type { BoardReader } from "../server/openings";
import { settle } from "../table/layout";
import { BoardMenu } from "./BoardMenu";
import type { KindView, ShownTile } from "./shown";
import { TileDialog } from "./TileDialog";
import "./boards.css";

/** The grid package is large, and most look at a board without arranging it. */
const Arranging = dynamic(() => import("./Arranging").then((module) => module.Arranging), { ssr: false });

type Tile = Board["tiles"][number];

interface Props {
	readonly board: Board;
	/** by the tile's id */
	readonly shown: Readonly<Record<string, ShownTile>>;
	readonly kinds: readonly KindView[];
	/** whom one may have opening with it */
	readonly readers: readonly BoardReader[];
}

/** A page of tiles. Looked at it is a plain grid, so that it prints and fits a phone; arranged, each tile is moved by mouse or by keys. */
export function BoardScreen({ board, shown, kinds, readers }: Props) {
	const { tiles, setTiles, arranging, setArranging, save } = useTiles(board);
	const [editing, setEditing] = useState<Tile | null>(null);
	const titleOf = (tile: Tile) => tile.title || shown[tile.id]?.title || kinds.find(({ key }) => key === tile.kind)?.label || tile.kind;
	const add = (kind: KindView) => {
		const tile: Tile = { id: crypto.randomUUID(), kind: kind.key, x: 0, y: 0, ...kind.size, title: "", settings: firstChoices(kind) };
		if (kind.settings.length) setEditing(tile);
		else void save(settle([tile, ...tiles], tile.id), `${kind.label} is on the board.`);
	};
	const keep = async (tile: Tile) => {
		const there = tiles.some(({ id }) => id === tile.id);
		if (await save(there ? tiles.map((one) => (one.id === tile.id ? tile : one)) : settle([tile, ...tiles], tile.id), "Board saved.")) setEditing(null);
	};
	const order = [...tiles].sort((a, b) => a.y - b.y || a.x - b.x);
	return (
		<div className="board">
			<Head
				board={board}
				kinds={kinds}
				readers={readers}
				arranging={arranging}
				empty={!tiles.length}
				onAdd={add}
				onArrange={() => setArranging(true)}
				onDone={() => void save(tiles, "Board saved.").then((ok) => ok && setArranging(false))}
				onDiscard={() => {
					setTiles(board.tiles);
					setArranging(false);
				}}
			/>
			{!tiles.length && (
				<div className="empty">
					<h2>This board is empty</h2>
					<p>Add a tile: a figure, a list, a chart, a saved view, or a text. It follows the sentence above.</p>
				</div>
			)}
			{arranging ? (
				<Arranging tiles={tiles} titleOf={titleOf} onTiles={setTiles} onEdit={setEditing} />
			) : (
				<Grid tiles={order} shown={shown} titleOf={titleOf} />
			)}
			{editing && (
				<TileDialog tile={editing} kind={kinds.find(({ key }) => key === editing.kind)} onKeep={(tile) => void keep(tile)} onClose={() => setEditing(null)} />
			)}
		</div>
	);
}

/** The tiles of a board as they are arranged here, and how they are saved. */
function useTiles(board: Board) {
	const [arranging, setArranging] = useState(false);
	/** the version that is being arranged: what others write meanwhile shows only when this is saved */
	const [base, setBase] = useState(board.version);
	const [tiles, setTiles] = useState<readonly Tile[]>(board.tiles);
	// What is being arranged isn’t taken away by a change of somebody else’s; saving says who was first.
	useEffect(() => {
		if (arranging) return;
		setTiles(board.tiles);
		setBase(board.version);
	}, [board, arranging]);
	const run = useRun();
	const act = useAct();
	const refresh = useRefresh();
	const save = async (next: readonly Tile[], words: string) => {
		const before = board.tiles;
		const done = await act(run("boards.change", { id: board.id, version: base, tiles: [...next] }), words, (changed) =>
			run("boards.change", { id: board.id, version: changed.version, tiles: [...before] }),
		);
		if (!done) refresh();
		return done !== null;
	};
	return { tiles, setTiles, arranging, setArranging, save };
}

interface HeadProps extends Pick<Props, "board" | "kinds" | "readers"> {
	readonly arranging: boolean;
	readonly empty: boolean;
	readonly onAdd: (kind: KindView) => void;
	readonly onArrange: () => void;
	readonly onDone: () => void;
	readonly onDiscard: () => void;
}

function Head({ board, kinds, readers, arranging, empty, onAdd, onArrange, onDone, onDiscard }: HeadProps) {
	const router = useRouter();
	const address = useAddress();
	const shared = `${board.own ? "Yours" : `By ${board.by}`}, shared with ${board.sharedWith}: changes here apply for everyone`;
	return (
		<div className="board-head no-print">
			<h2>{board.name}</h2>
			<span className="second small-text">{board.sharedWith ? shared : board.own ? "" : `by ${board.by}`}</span>
			<span className="board-acts">
				<AddTile kinds={kinds} onAdd={onAdd} />
				{arranging ? (
					<>
						<Button size="sm" onClick={onDone}>
							Done
						</Button>
						<Button size="sm" variant="link" onClick={onDiscard}>
							Discard
						</Button>
					</>
				) : (
					<Button size="sm" variant="outline-primary" disabled={empty} onClick={onArrange}>
						Arrange
					</Button>
				)}
				<BoardMenu board={board} readers={readers} onGone={() => router.push(address("/period/boards"))} />
			</span>
		</div>
	);
}

const firstChoices = ({ settings }: KindView): Record<string, string> =>
	Object.fromEntries(settings.map(({ name, choices }) => [name, choices?.[0]?.value ?? ""]));

function AddTile({ kinds, onAdd }: { kinds: readonly KindView[]; onAdd: (kind: KindView) => void }) {
	return (
		<Dropdown>
			<Dropdown.Toggle size="sm" variant="outline-primary">
				Add a tile
			</Dropdown.Toggle>
			<Dropdown.Menu>
				{kinds.map((kind) => (
					<Dropdown.Item as="button" type="button" key={kind.key} title={kind.about} onClick={() => onAdd(kind)}>
						{kind.label}
					</Dropdown.Item>
				))}
			</Dropdown.Menu>
		</Dropdown>
	);
}

interface GridProps {
	readonly tiles: readonly Tile[];
	readonly shown: Props["shown"];
	readonly titleOf: (tile: Tile) => string;
}

/** The tiles in their places, as they are looked at and printed. */
function Grid({ tiles, shown, titleOf }: GridProps) {
	const address = useAddress();
	return (
		<div className="board-grid">
			{tiles.map((tile) => {
				const one = shown[tile.id];
				return (
					<section
						key={tile.id}
						className="panel board-tile"
						aria-label={titleOf(tile)}
						style={{ gridColumn: `${tile.x + 1} / span ${tile.w}`, gridRow: `${tile.y + 1} / span ${tile.h}` }}
					>
						{titleOf(tile) && (tile.kind !== "text" || tile.title) && (
							<h3>{one?.opens ? <Link href={address(one.opens.path, one.opens.more)}>{titleOf(tile)}</Link> : titleOf(tile)}</h3>
						)}
						<div className="board-tile-body">{one?.node}</div>
					</section>
				);
			})}
		</div>
	);
}
