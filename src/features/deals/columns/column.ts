import type { ReactNode } from "react";
import type { FieldKey } from "@/core/deal/state";
import type { DealSeen } from "@/core/dealSeen";
import type { OrganisationState } from "@/data/organisation/state";
import type { Viewpoint } from "@/platform/viewpoint";
import type { TrailSpan } from "@/ui/parts/Trail";
import type { TermKey } from "@/ui/terms";
import type { Cell, DealRow } from "../table/row";

export type ColumnKind = "text" | "amount" | "count" | "day" | "percent";

/** What a cell needs beside its deal. */
export interface CellSetting {
	readonly currency: string;
	readonly span: TrailSpan;
	readonly seen: string;
	/** how many flags there is room for */
	readonly most: number;
	readonly onOpen: (id: string) => void;
	/** leads to a place of the program, with the sentence */
	readonly link: (path: string, words: string) => ReactNode;
	/** opens the box that changes a field; absent where nothing may be changed */
	readonly onEdit?: ((row: DealRow, field: FieldKey, target: HTMLElement) => void) | undefined;
}

/** A deal as the server sees it, to make a figure of. */
export interface SeenDeal {
	readonly seen: DealSeen;
	readonly organisation: OrganisationState;
	readonly viewpoint: Viewpoint;
}

/** A way of grouping deals: each is in one group, so that subtotals add up. */
export interface Grouping {
	readonly key: string;
	readonly label: string;
	readonly value: (row: DealRow) => string;
	/** groups stand in this order, those of one rank by amount */
	readonly rank?: (row: DealRow) => number;
}

/** A column of the table of deals: all that table, chooser, sorting, filters, groups and files know of it. */
export interface Column {
	readonly key: string;
	readonly label: string;
	readonly kind: ColumnKind;
	/** the first click sorts so */
	readonly order: "ascending" | "descending";
	/** what it shows, and is sorted by unless `sort` says otherwise */
	readonly value: (row: DealRow) => Cell;
	/** A figure of its own that lists don't have: made on the server, and found at `row.figures[key]`. */
	readonly figure?: (deal: SeenDeal) => Cell;
	readonly sort?: (row: DealRow) => Cell;
	/** our own word for what it shows, explained at its head */
	readonly means?: TermKey;
	/** the grid's width, and the least one in pixels */
	readonly width?: string;
	readonly least?: number;
	/** stays beside an open sheet, and on a phone */
	readonly beside?: true;
	/** drawn otherwise than its value is written */
	readonly cell?: (row: DealRow, setting: CellSetting) => ReactNode;
	/** what a file calls it, and the keys of the columns that stand in a file in its place */
	readonly file?: { readonly label?: string; readonly columns?: readonly string[] };
	readonly grouping?: Grouping;
}

type Given = Omit<Column, "order"> & Partial<Pick<Column, "order">>;

/**
 * Makes a column. Texts and days are sorted upwards first, figures downwards, unless it says otherwise.
 *
 * @example column({ key: "pushes", label: "Pushes", kind: "count", value: (row) => row.pushes })
 */
export function column(given: Given): Column {
	const { grouping } = given;
	return { order: given.kind === "text" || given.kind === "day" ? "ascending" : "descending", ...given, ...(grouping ? { grouping } : {}) };
}
