/** How many rows of a long list come with the page, and how many more at a time. */
export const ROWS_AT_ONCE = 200;
/** More are neither read nor drawn at once; a list is narrowed by its sentence and filters instead. */
const MOST_ROWS = 5000;

/** How many rows an address asks for by its `limit`; the usual number where it says nothing that can be read. */
export function rowsAsked(limit: string | undefined): number {
	const rows = /^\d{1,6}$/.test(limit ?? "") ? Number(limit) : ROWS_AT_ONCE;
	return Math.min(Math.max(rows, 1), MOST_ROWS);
}
