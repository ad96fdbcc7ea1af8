import type { ReactNode } from "react";

/** A column of a table: its head, what it is sorted by, and how a row’s cell is drawn. */
export interface TableColumn<Row> {
	readonly key: string;
	readonly label: string;
	/** the head is for screen readers alone: buttons that need none */
	readonly silent?: boolean;
	/** figures stand at the right */
	readonly num?: boolean;
	/** names the row, for screen readers too */
	readonly names?: boolean;
	readonly className?: string;
	/** What its rows are sorted by when the head is pressed, null last; absent: it can’t be. */
	readonly by?: (row: Row) => string | number | null | undefined;
	readonly cell: (row: Row, place: number) => ReactNode;
}

/** Rows under a heading of their own. */
export interface TableSection<Row> {
	readonly key: string;
	readonly heading: ReactNode;
	/** beside the heading, in the last column */
	readonly aside?: ReactNode;
	readonly rows: readonly Row[];
}

/** By which column rows stand, and which way. */
export interface TableSort {
	readonly key: string;
	readonly down: boolean;
}
