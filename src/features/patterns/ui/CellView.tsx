"use client";
import Link from "next/link";
import type { ReactNode } from "react";
import { grouped, money, nearDate, wholeMoney } from "@/ui/format";
import type { Cell } from "../table/view";
import { ComeBack } from "./ComeBack";
import { ShareBar } from "./ShareBar";
import { TimesCell } from "./TimesCell";

interface Props {
	readonly cell: Cell;
	readonly currency: string;
	readonly seen: string;
	/** what the cell is about, for whoever can't see where it stands */
	readonly of: string;
	readonly opened: boolean;
	readonly onOpen: (key: string) => void;
}

/** What stands in a place of a table of the past; what was made of deals opens them. */
export function CellView({ cell, currency, seen, of, opened, onOpen }: Props) {
	const shown = drawn(cell, currency, seen);
	const opens = "opens" in cell ? cell.opens : undefined;
	if (!opens) return shown;
	return (
		<button type="button" className="opens" aria-expanded={opened} onClick={() => onOpen(opens)}>
			{shown}
			<span className="visually-hidden">, {of}: open the deals</span>
		</button>
	);
}

const nothing = <span className="third">–</span>;

function drawn(cell: Cell, currency: string, seen: string): ReactNode {
	switch (cell.kind) {
		case "share":
			return <ShareBar share={cell.share} beside={cell.beside} />;
		case "times":
			return <TimesCell {...cell} />;
		case "money":
			return cell.minor === null ? (
				nothing
			) : (
				<span className="text-nowrap" title={money(cell.minor, currency)}>
					{wholeMoney(cell.minor, currency)}
				</span>
			);
		case "count":
			return cell.value === null ? nothing : grouped(cell.value);
		case "number":
			return cell.value === null ? nothing : `${cell.value.toFixed(cell.digits)}${cell.unit ? ` ${cell.unit}` : ""}`;
		case "percent":
			return cell.value === null ? nothing : `${(100 * cell.value).toFixed(1)}%`;
		case "day":
			return <span className="text-nowrap">{nearDate(cell.iso, seen)}</span>;
		case "deal":
			return (
				<>
					<Link href={`/deals/${encodeURIComponent(cell.id)}`}>{cell.name}</Link> <span className="d-block tiny second">{cell.account}</span>
				</>
			);
		case "comeBack":
			return <ComeBack {...cell} seen={seen} />;
		default:
			return (
				<span className={cell.tone === "worse" ? "worse" : cell.tone === "better" ? "gained" : ""}>
					{cell.words}
					{cell.tiny && <span className="d-block tiny second text-nowrap">{cell.tiny}</span>}
				</span>
			);
	}
}
