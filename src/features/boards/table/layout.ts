/** Columns of a board's grid. */
export const COLUMNS = 12;
export const MOST_TILES = 40;
export const MOST_ROWS = 400;

/** A tile where it lies on the grid: columns and rows from 0. */
export interface Placed {
	readonly id: string;
	readonly x: number;
	readonly y: number;
	readonly w: number;
	readonly h: number;
}

const collide = (a: Placed, b: Placed) => a.id !== b.id && a.x < b.x + b.w && b.x < a.x + a.w && a.y < b.y + b.h && b.y < a.y + a.h;

/**
 * Lets every tile rise as far as it can without lying on another: in the order of rows, then columns; `first` goes before
 * others of its row. No two overlap afterwards, whatever they did before.
 */
export function settle<T extends Placed>(tiles: readonly T[], first?: string): T[] {
	const order = [...tiles].sort((a, b) => a.y - b.y || (a.id === first ? -1 : b.id === first ? 1 : a.x - b.x));
	const done: T[] = [];
	for (const tile of order) {
		const w = Math.min(COLUMNS, Math.max(1, tile.w));
		let placed = { ...tile, w, h: Math.max(1, tile.h), x: Math.min(Math.max(0, tile.x), COLUMNS - w), y: 0 };
		while (done.some((other) => collide(placed, other))) placed = { ...placed, y: placed.y + 1 };
		done.push(placed);
	}
	return tiles.map((tile) => done.find(({ id }) => id === tile.id) as T);
}

/** How a tile is moved or resized by one step. */
export type Nudge = "left" | "right" | "up" | "down" | "wider" | "narrower" | "taller" | "shorter";

/** A board after one tile was nudged: it goes before whatever it meets. */
export function nudge<T extends Placed>(tiles: readonly T[], id: string, how: Nudge): T[] {
	const tile = tiles.find((one) => one.id === id);
	if (!tile) return [...tiles];
	const above = Math.max(0, ...tiles.filter((one) => one.id !== id && one.y < tile.y && one.x < tile.x + tile.w && tile.x < one.x + one.w).map((one) => one.y));
	const below = Math.min(
		...tiles.filter((one) => one.id !== id && one.y > tile.y && one.x < tile.x + tile.w && tile.x < one.x + one.w).map((one) => one.y + one.h),
	);
	const change: Partial<Placed> = {
		left: { x: tile.x - 1 },
		right: { x: tile.x + 1 },
		up: { y: above },
		down: { y: Number.isFinite(below) ? below : tile.y },
		wider: { w: Math.min(COLUMNS, tile.w + 1), x: Math.min(tile.x, COLUMNS - Math.min(COLUMNS, tile.w + 1)) },
		narrower: { w: Math.max(2, tile.w - 1) },
		taller: { h: Math.min(40, tile.h + 1) },
		shorter: { h: Math.max(2, tile.h - 1) },
	}[how];
	return settle(
		tiles.map((one) => (one.id === id ? { ...one, ...change } : one)),
		id,
	);
}
