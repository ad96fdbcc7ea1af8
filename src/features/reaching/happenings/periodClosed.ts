import { closedSince } from "@/features/closes";
import { type Found, happening } from "./happening";

/** news is looked for so far back, in milliseconds */
const BACK = 24 * 3_600_000;

/** A period was closed, or its close corrected: told to those who lead the people it tells of, and to those above them. */
export const periodClosed = happening({
	kind: "period-closed",
	label: "a period I lead is closed or its close corrected, with how it ended",
	usual: { onScreen: true, mail: "now" },
	async find({ context: { organisation }, as }) {
		const found: Found<{ label: string; whose: string; headline: string; correction: number; by: string | null }>[] = [];
		for (const close of await closedSince(new Date(Date.now() - BACK))) {
			for (const { id: personId, role } of organisation.people) {
				const context = role === "manager" || role === "viewer" ? as(personId) : null;
				const told = context && close.toldTo(context);
				if (!told || close.byId === personId) continue;
				found.push({
					personId,
					key: close.id,
					facts: { label: told.label, whose: told.whose, headline: told.headline, correction: close.correction, by: told.by },
					path: told.path,
					byId: close.byId,
					parts: told.parts,
				});
			}
		}
		return found;
	},
	say: ({ label, whose, headline, correction, by }) =>
		`${label}, ${whose}: ${correction ? "the close was corrected" : by ? `closed by ${by}` : "closed by itself"}. ${headline}`,
});
