import { eq } from "drizzle-orm";
import type { Tx } from "../db";
import { reachState } from "../schema";

const KEY = "quiet";
/** of more deals their names aren't kept: nobody is told of any */
const MOST = 20_000;

/** Deals of which nobody is told anything at the next look; null: of none at all. */
export interface Quiet {
	readonly deals: readonly string[] | null;
}

/** Has the next look for happenings tell nobody of some deals: what an import brings lies in the past. */
export async function keepQuiet(tx: Tx, deals: ReadonlySet<string>): Promise<void> {
	const [waiting] = await tx.select().from(reachState).where(eq(reachState.key, KEY));
	const before = waiting ? (waiting.value as Quiet).deals : [];
	const all = before && deals.size + before.length <= MOST ? [...new Set([...before, ...deals])] : null;
	const value: Quiet = { deals: all };
	await tx.insert(reachState).values({ key: KEY, value }).onConflictDoUpdate({ target: reachState.key, set: { value } });
}

/** What the present look tells nobody of; null where there is nothing of the kind. It holds for this look alone. */
export async function takeQuiet(tx: Tx): Promise<Quiet | null> {
	const [waiting] = await tx.delete(reachState).where(eq(reachState.key, KEY)).returning();
	return waiting ? (waiting.value as Quiet) : null;
}
