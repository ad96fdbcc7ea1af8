/** what fits a tile, however tall; the rest is a press away */
const SHOWN = 40;

/** The first of some deals, with the count and sum of all: a tile sends no more to the browser than it shows. */
export const shownDeals = <T extends { readonly amount: number }>(deals: readonly T[]) => ({
	rows: deals.slice(0, SHOWN),
	count: deals.length,
	amount: deals.reduce((sum, { amount }) => sum + amount, 0),
});
