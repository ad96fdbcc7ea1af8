import { type Filter, type FilterSetting, meets } from "../filters";
import type { DealRow } from "./row";

/** What asks for deals at watch or act, where others name a flag. */
export const LIT = "lit";

const texts = new WeakMap<DealRow, string>();

/** Whether all words stand in what a row shows. Its text is made once a row. */
function says(row: DealRow, words: readonly string[]): boolean {
	let text = texts.get(row);
	if (text === undefined) {
		text = `${row.name} ${row.account} ${row.owner} ${row.stage} ${row.nextStep ?? ""} ${row.flags.map((flag) => flag.label).join(" ")}`.toLowerCase();
		texts.set(row, text);
	}
	return words.every((word) => text.includes(word));
}

/** Whether a deal says all of some words, and meets every filter. */
export function fitsWords(text: string, filters: readonly Filter[], setting: FilterSetting): (row: DealRow) => boolean {
	const words = text.trim().toLowerCase().split(/\s+/).filter(Boolean);
	return (row) => says(row, words) && filters.every((filter) => meets(row, filter, setting));
}

export interface AskedFlags {
	readonly flags: readonly string[];
	readonly how: "any" | "all";
	readonly since: "lit" | "out" | null;
}

/** Whether a deal carries the flags that are asked for: now, newly lit, or gone out since. */
export function fitsFlags({ flags, how, since }: AskedFlags): (row: DealRow) => boolean {
	const asked = flags.filter((flag) => flag !== LIT);
	const carries = (row: DealRow, code: string) =>
		since === "lit" ? row.newlyLit.includes(code) : since === "out" ? row.wentOut.includes(code) : row.flags.some((flag) => flag.code === code);
	return (row) => {
		if (flags.includes(LIT) && row.level === "calm") return false;
		if (!asked.length) return since === "lit" ? row.newlyLit.length > 0 : since === "out" ? row.wentOut.length > 0 : true;
		return how === "all" ? asked.every((code) => carries(row, code)) : asked.some((code) => carries(row, code));
	};
}
