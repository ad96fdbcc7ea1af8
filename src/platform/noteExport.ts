import type { Context } from "./context";
import { systemWrite } from "./write";

/** Puts into the audit that somebody took a table away as a file, and of what. */
export function noteExport(context: Context, detail: Readonly<Record<string, unknown>>): Promise<null> {
	return systemWrite(async () => ({ result: null, touched: "nothing", audit: { action: "table exported", detail } }), context.actor.person.id);
}
