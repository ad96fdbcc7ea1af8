import { bridgeTile } from "./bridge";
import { dealsTile } from "./deals";
import { figureTile } from "./figure";
import { flowTile } from "./flow";
import { groupsTile } from "./groups";
import { outlookTile } from "./outlook";
import { paceTile } from "./pace";
import { riverTile } from "./river";
import { textTile } from "./text";
import type { TileKind } from "./tile";
import { trendTile } from "./trend";
import { turnsTile } from "./turns";
import { viewTile } from "./view";

/** Kinds of tiles a board may hold, as its menu lists them. A new one is one file and one line here. */
export const TILE_KINDS: readonly TileKind[] = [
	figureTile,
	dealsTile,
	viewTile,
	groupsTile,
	paceTile,
	outlookTile,
	bridgeTile,
	flowTile,
	riverTile,
	trendTile,
	turnsTile,
	textTile,
];

const BY_KEY: ReadonlyMap<string, TileKind> = new Map(TILE_KINDS.map((kind) => [kind.key, kind]));
/** The kind of a tile by its key; undefined for one there is none of. */
export const tileKind = (key: string): TileKind | undefined => BY_KEY.get(key);
