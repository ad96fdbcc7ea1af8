import type { ReactNode } from "react";
import type { TileSetting } from "../table/setting";

export interface ShownTile {
	readonly title: string;
	readonly opens: { readonly path: string; readonly more?: Readonly<Record<string, string>> } | null;
	readonly node: ReactNode;
}

export interface KindView {
	readonly key: string;
	readonly label: string;
	readonly about: string;
	readonly size: { readonly w: number; readonly h: number };
	readonly settings: readonly TileSetting[];
}
