import { loadDemo as load, registerDemo } from "@/features/begin/server/demo";
import { systemWrite } from "@/platform/write";
import type { Day } from "../core/time/day";

export { DEMO_PASSWORD } from "@/features/people";

/** Loads Emberwick Ovens at a first start, and says how far it is. */
export async function loadDemo(today: Day, say: (words: string) => void): Promise<void> {
	say("Making the demo company and importing it");
	const id = await systemWrite(async (tx) => ({ result: await registerDemo(tx, null), touched: "nothing", audit: [] }));
	const counts = await load({ id, today });
	const rows = Object.values(counts).reduce((sum, count) => sum + count, 0);
	say(`${rows} rows are in`);
}
