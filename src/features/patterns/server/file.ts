import { formatDay } from "@/core/time/day";
import type { TableCell, TableColumn } from "@/formats/table";
import { Fault, notFound } from "@/platform/fault";
import { type FileContent, tableFile } from "@/platform/tableFile";
import type { Cell, Column, PatternTable } from "../table/view";
import { lookAsked } from "./looking";
import { outlookFile } from "./outlookFile";
import { readPatternNow } from "./readPattern";

const HUNDRED = 100;
const inPercent = (value: number | null): number | null => (value === null ? null : Math.round(HUNDRED * HUNDRED * value) / HUNDRED);

/** The columns of a file that a column of a screen becomes: a share says what it is made of, and its interval. */
function columnsOf({ label: name, kind }: Column, currency: string): TableColumn[] {
	switch (kind) {
		case "share":
			return [
				{ label: name, kind: "count" },
				{ label: `${name}: of`, kind: "count" },
				{ label: `${name}: share`, kind: "percent" },
				{ label: `${name}: from`, kind: "percent" },
				{ label: `${name}: to`, kind: "percent" },
			];
		case "times":
			return [
				{ label: `${name}: finished`, kind: "count" },
				{ label: `${name}: under way`, kind: "count" },
				{ label: `${name}: mean of the first days`, kind: "text" },
				{ label: `${name}: first days`, kind: "text" },
				{ label: `${name}: median`, kind: "text" },
				{ label: `${name}: median from`, kind: "text" },
				{ label: `${name}: median to`, kind: "text" },
			];
		case "money":
			return [{ label: `${name} ${currency}`, kind: "amount" }];
		case "count":
			return [{ label: name, kind: "count" }];
		case "percent":
			return [{ label: name, kind: "percent" }];
		case "day":
			return [{ label: name, kind: "day" }];
		case "comeBack":
			return [
				{ label: name, kind: "day" },
				{ label: "Follows up", kind: "day" },
			];
		default:
			return [{ label: name, kind: "text" }];
	}
}

function cellsOf(cell: Cell): TableCell[] {
	switch (cell.kind) {
		case "share": {
			const { k, n, share, low, high } = cell.share;
			return [k, n, inPercent(share), inPercent(low), inPercent(high)];
		}
		case "times":
			return [
				cell.finished,
				cell.unfinished,
				...[cell.mean, cell.upTo, cell.median, cell.interval.low, cell.interval.high].map((value) => (value === null ? null : String(value))),
			];
		case "money":
			return [cell.minor];
		case "count":
			return [cell.value];
		case "number":
			return [cell.value === null ? null : cell.value.toFixed(cell.digits)];
		case "percent":
			return [inPercent(cell.value)];
		case "day":
			return [cell.iso];
		case "deal":
			return [cell.name];
		case "comeBack":
			return [cell.day, cell.back];
		default:
			return [cell.tiny ? `${cell.words} (${cell.tiny})` : cell.words];
	}
}

/** A table of the past as a file. Every row has the cells of each column, whatever it leaves out. */
export function contentOf({ of, columns, rows }: PatternTable, currency: string): FileContent {
	const wide = columns.map((column) => columnsOf(column, currency));
	return {
		currency,
		columns: [{ label: of, kind: "text" }, ...wide.flat()],
		rows: rows.map(({ name, cells }) => [
			name,
			...wide.flatMap((own, i): TableCell[] => {
				const cell = cells[i];
				const made = cell && cell.kind === columns[i]?.kind ? cellsOf(cell) : cell?.kind === "text" && cell.words !== "·" ? [cell.words] : [];
				return own.map((_, n) => made[n] ?? null);
			}),
		]),
	};
}

/** The table of the past that the address names by `show` and `part`, or the deals of the outlook. */
export const patternsFile = tableFile({
	key: "patterns",
	async read(context, viewpoint, ask) {
		const show = ask("show");
		if (!show || show === "outlook") return outlookFile(context, viewpoint);
		const { scope } = viewpoint.whose;
		const asked = { scope, day: viewpoint.seen.day, look: lookAsked({ quarters: ask("quarters"), lead: ask("lead") }), by: ask("by") };
		const view = await readPatternNow(context, show, asked);
		const part = ask("part");
		const table = part ? view.tables.find(({ key }) => key === part) : view.tables[0];
		if (!table) throw part ? notFound("table", part) : new Fault(404, "Nothing to export", `There is nothing of ${formatDay(viewpoint.seen.day)} yet.`);
		return contentOf(table, view.currency);
	},
});
