import { type Block, blockOf, endRow, firstRow, HISTORY_COLUMNS, nextStepOf } from "@/core/history/columns";
import type { OrganisationState } from "@/data/organisation/state";

/** All that is kept in memory, but for functions and for objects that are told apart by them. */
export const plain = (value: unknown) =>
	JSON.parse(JSON.stringify(value, (_, one) => (ArrayBuffer.isView(one) ? [...(one as Int32Array)] : one instanceof Map ? [...one] : one)));

/** The ids of the deals that are there, in their order. */
export const idsOf = ({ dealIndex }: OrganisationState): string[] => [...dealIndex.keys()].sort();

/** An organisation deal by deal, in the order of their ids: where a deal stands says only when it came. */
export function spelt({ company, deals, dealIndex, ...rest }: OrganisationState) {
	const { history, deals: facts, ...frame } = company;
	const all = [...dealIndex]
		.sort(([a], [b]) => (a < b ? -1 : 1))
		.map(([id, at]) => ({ id, name: deals[at], facts: facts[at], versions: versionsOf(blockOf(history, at), at) }));
	return plain({ ...rest, frame: { ...frame, blocks: undefined }, all });
}

function versionsOf(block: Block, deal: number) {
	const rows: Record<string, unknown>[] = [];
	for (let row = firstRow(block, deal); row < endRow(block, deal); row++) {
		rows.push({ ...Object.fromEntries(HISTORY_COLUMNS.map((name) => [name, block[name][row]])), nextStep: nextStepOf(block, row) });
	}
	return rows;
}

/** A block with the next steps spelt out: which text has which number depends on how it was made. */
export const blockInWords = (block: Block) => ({ ...block, texts: [], nextStep: [...block.id.keys()].map((row) => nextStepOf(block, row)) });
