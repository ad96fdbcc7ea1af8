import type { ReactNode } from "react";
import type { Light } from "@/core/attention/attention";
import type { FieldKey } from "@/core/deal/state";
import { change, nearDate, spaced, wholeAmount } from "@/ui/format";
import { Evidence, StageBar } from "@/ui/parts/Bars";
import { FlagChip } from "@/ui/parts/FlagChip";
import { Lamp } from "@/ui/parts/Lamp";
import { Trail, type TrailSpan } from "@/ui/parts/Trail";
import type { DealRow } from "../server/readDeals";
import { columnOf } from "../table/columns";

/** What a cell needs beside its deal. */
export interface CellSetting {
	readonly currency: string;
	readonly span: TrailSpan;
	readonly seen: string;
	/** how many flags there is room for */
	readonly most: number;
	readonly onOpen: (id: string) => void;
	/** opens the box that changes a field; absent where nothing may be changed */
	readonly onEdit?: ((row: DealRow, field: FieldKey, target: HTMLElement) => void) | undefined;
}

/** The least width of each column, and how much of the rest it takes. */
export const WIDTHS: Readonly<Record<string, string>> = {
	attention: "2.7rem",
	name: "minmax(9rem, 1.35fr)",
	account: "minmax(8rem, 1fr)",
	owner: "4.6rem",
	stage: "6.8rem",
	amount: "5.6rem",
	change: "5.2rem",
	weighted: "5.4rem",
	close: "108px",
	evidence: "6rem",
	flags: "minmax(9rem, 1.7fr)",
	nextStep: "minmax(8rem, 1fr)",
	products: "minmax(7rem, 1fr)",
	competitor: "7.5rem",
	source: "6.6rem",
	industry: "6.6rem",
	territory: "6.2rem",
	nextStepDate: "5.6rem",
	customer: "6.4rem",
};
export const STANDARD_WIDTH = "4.9rem";

/** Opens the box to change what it shows; where nothing may be changed, only shows it. */
function Edit({ row, field, words, setting, children }: { row: DealRow; field: FieldKey; words: string; setting: CellSetting; children: ReactNode }) {
	const { onEdit } = setting;
	if (!onEdit) return children;
	return (
		<button type="button" className="cell-edit" title={`Change the ${words}`} onClick={(event) => onEdit(row, field, event.currentTarget)}>
			{children}
		</button>
	);
}

/** A deal's cell in a column. */
export function DealCell({ column, row, setting }: { column: string; row: DealRow; setting: CellSetting }): ReactNode {
	const { currency, seen } = setting;
	switch (column) {
		case "attention":
			return (
				<span className="c-lamp" title={`Attention ${row.score} of 100: ${row.level}`}>
					<Lamp level={row.level as Light} />
					<span className="tiny second">{row.score}</span>
				</span>
			);
		case "name":
			return (
				<>
					<button type="button" className="plain-button deal-name" title={row.name} onClick={() => setting.onOpen(row.id)}>
						{row.name}
					</button>
					<span className="deal-account" title={row.account}>
						{row.account}
					</span>
				</>
			);
		case "owner":
			return (
				<Edit row={row} field="ownerId" words="owner" setting={setting}>
					<span title={row.ownerActive ? row.owner : `${row.owner} no longer works here`}>
						{row.owner.split(" ")[0]}
						{!row.ownerActive && <span className="tiny second d-block">{row.ownerId ? "has left" : ""}</span>}
					</span>
				</Edit>
			);
		case "stage":
			return (
				<Edit row={row} field="stage" words="stage" setting={setting}>
					<span className="d-block text-truncate">{row.stage}</span>
					<span className="stage-days">
						<StageBar days={row.stageAge} usual={row.usual} limit={row.usualLimit} stage={row.stage} width={66} />
						<span className="tiny second">{row.stageAge} d</span>
					</span>
				</Edit>
			);
		case "amount":
			return (
				<Edit row={row} field="amount" words="amount" setting={setting}>
					<span className="d-block">{row.amountBlank ? "blank" : wholeAmount(row.amount, currency)}</span>
					{row.change === null ? (
						<span className="tiny gained">new</span>
					) : (
						row.change !== 0 && <span className={`tiny ${row.change > 0 ? "gained" : "worse"}`}>{change(row.change, currency)}</span>
					)}
				</Edit>
			);
		case "close":
			return (
				<Edit row={row} field="closeDate" words="close date" setting={setting}>
					<Trail points={row.trail} span={setting.span} width={108} />
				</Edit>
			);
		case "evidence":
			return (
				<>
					<Evidence strength={row.strength} coverage={row.coverage} expected={row.expected} width={74} />
					<span className="tiny second">
						{row.strength} of {row.expected} expected
					</span>
				</>
			);
		case "flags":
			return <Flags row={row} most={setting.most} />;
		case "category":
			return (
				<Edit row={row} field="category" words="category" setting={setting}>
					{spaced(row.category) || <span className="third">none</span>}
				</Edit>
			);
		case "nextStep":
			return (
				<Edit row={row} field="nextStep" words="next step" setting={setting}>
					<span className="two-lines" title={row.nextStep ?? undefined}>
						{row.nextStep ?? <span className="third">none</span>}
					</span>
				</Edit>
			);
		default:
			return <Plain column={column} row={row} currency={currency} seen={seen} />;
	}
}

function Plain({ column, row, currency, seen }: { column: string; row: DealRow; currency: string; seen: string }): ReactNode {
	const found = columnOf(column);
	const value = found?.value(row) ?? null;
	if (value === null) return <span className="third">–</span>;
	if (found?.kind === "amount") return column === "change" ? change(Number(value), currency) : wholeAmount(Number(value), currency);
	if (found?.kind === "day") return nearDate(String(value), seen);
	if (found?.kind === "percent") return `${value}%`;
	return (
		<span className="two-lines" title={String(value)}>
			{value}
		</span>
	);
}

/** The flags there is room for, and how many more there are. */
function Flags({ row, most }: { row: DealRow; most: number }) {
	const rest = row.flags.slice(most);
	return (
		<span className="c-flag-list">
			{row.flags.slice(0, most).map((flag) => (
				<FlagChip key={flag.code} {...flag} fresh={row.newlyLit.includes(flag.code)} />
			))}
			{rest.length > 0 && (
				<span className="chip chip-more" title={rest.map((flag) => flag.label).join(", ")}>
					+{rest.length}
					<span className="visually-hidden"> more flags: {rest.map((flag) => flag.label).join(", ")}</span>
				</span>
			)}
		</span>
	);
}
