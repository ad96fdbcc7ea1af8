import { differing, FIELD_KEYS } from "@/core/deal/fields";
import type { DealState } from "@/core/deal/state";
import { exactAmount } from "@/core/money/words";
import { parseDay } from "@/core/time/day";
import { overlay } from "@/core/weekly/versions";
import type { Context } from "@/platform/context";
import { breathe } from "@/platform/threads";
import type { SaidRow } from "./shapes";
import { fileInstant, isWeekly, type versionsOf } from "./store";

/** How many rows are new, how many change which fields, and what of it is odd. */
export async function changesOf(read: readonly SaidRow[], holds: (id: string) => DealState | null, isEdited: (id: string) => boolean) {
	const counts = new Map(FIELD_KEYS.map((field) => [field, 0]));
	const jumps: string[] = [];
	const blanked: string[] = [];
	let [fresh, changed, editedHere] = [0, 0, 0];
	for (const [i, row] of read.entries()) {
		await breathe(i);
		const state = holds(row.id);
		if (!state) {
			fresh++;
			continue;
		}
		const fields = differing(state, overlay(state, row.said));
		if (!fields.length) continue;
		changed++;
		for (const field of fields) counts.set(field, (counts.get(field) ?? 0) + 1);
		const jump = jumpOf(row, state);
		if (jump) jumps.push(jump);
		if (state.amount !== null && row.said.amount === null) blanked.push(`${row.name || row.id} (${money(state.amount, state.currency)})`);
		if (isEdited(row.id)) editedHere++;
	}
	return { fresh, changed, editedHere, counts, jumps, blanked };
}

/** Whether a deal was edited in the program after the file before: that edit is what a file’s row would change. */
export function editedAfter(
	context: Context,
	versions: Awaited<ReturnType<typeof versionsOf>>,
	at: number,
	before: { day: string } | null,
	own: string | null,
) {
	const since = before ? fileInstant(context, parseDay(before.day) ?? 0) : null;
	return (id: string): boolean => {
		const last = (versions.get(id) ?? []).filter((version) => version.at <= at && version.importId !== own).at(-1);
		return since !== null && last !== undefined && !isWeekly(last.importId) && last.at > since;
	};
}

const money = (amount: number, currency: string | null) => (currency ? `${currency} ${exactAmount(amount, currency)}` : "");

/** A deal's amount that is ten times what it was, or a tenth, in words; null where it isn't. */
function jumpOf(row: SaidRow, state: DealState): string | null {
	const [was, is] = [state.amount ?? 0, row.said.amount ?? 0];
	if (!was || !is || state.currency !== row.said.currency) return null;
	const times = Math.abs(is / was);
	if (times < JUMP && times > 1 / JUMP) return null;
	return `${row.name || row.id} (${money(was, state.currency)}, now ${money(is, row.said.currency ?? null)})`;
}

/** An amount this many times what it was, or this part of it, is asked about. */
export const JUMP = 10;
