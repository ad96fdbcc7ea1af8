import type { ReactNode } from "react";
import type { Context } from "@/platform/context";
import type { Viewpoint } from "@/platform/viewpoint";
import type { TileSetting } from "../table/setting";

/** What a tile shows, and where it leads: an address without the sentence, which goes along. */
export interface TileView {
	readonly title: string;
	readonly opens: { readonly path: string; readonly more?: Readonly<Record<string, string>> } | null;
	readonly node: ReactNode;
}

/** A kind of tile: what it may be set to, and what it shows of a viewpoint. The reads it is made of check the rights. */
export interface TileKind {
	readonly key: string;
	readonly label: string;
	readonly about: string;
	readonly size: { readonly w: number; readonly h: number };
	readonly settings: (context: Context) => Promise<readonly TileSetting[]> | readonly TileSetting[];
	readonly show: (context: Context, viewpoint: Viewpoint, settings: Readonly<Record<string, string>>) => Promise<TileView> | TileView;
}

/**
 * Makes a kind of tile.
 *
 * @example export const textTile = tile({ key: "text", label: "Text", about: "…", size: { w: 4, h: 4 }, settings: () => [], show: () => ({ title: "Text", opens: null, node: "…" }) });
 */
export const tile = (given: TileKind): TileKind => given;
