import type { FormerField } from "@/core/formerFields";
import type { Tx } from "@/data/db";
import { formerFacts } from "@/data/schema";
import type { Context } from "./context";

/** Keeps what a fact was before it is changed, so that days before go on being read with it. */
export async function recordPreviousValue(
	tx: Tx,
	context: Context,
	facts: readonly {
		readonly dealId?: string;
		readonly contactId?: string;
		readonly accountId?: string;
		readonly field: FormerField;
		readonly before: string | null;
	}[],
): Promise<void> {
	if (facts.length) await tx.insert(formerFacts).values(facts.map((fact) => ({ ...fact, at: new Date(context.now.instant) })));
}
