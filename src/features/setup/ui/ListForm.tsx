"use client";
import type { ReactNode } from "react";
import { Button } from "react-bootstrap";
import { Scrolls } from "@/ui/parts/Scrolls";

interface Rows {
	move(from: number, to: number): void;
	remove(at: number): void;
}

/** Moves a row of a list of settings up and down, and takes it away. */
export function RowButtons({
	rows,
	at,
	count,
	name,
	gone,
}: {
	rows: Rows;
	at: number;
	count: number;
	name: string;
	gone: { label: string; title: string; not?: boolean };
}) {
	return (
		<td className="text-nowrap">
			<Button size="sm" variant="link" disabled={at === 0} aria-label={`${name} further up`} onClick={() => rows.move(at, at - 1)}>
				↑
			</Button>
			<Button size="sm" variant="link" disabled={at === count - 1} aria-label={`${name} further down`} onClick={() => rows.move(at, at + 1)}>
				↓
			</Button>
			<Button size="sm" variant="link" disabled={gone.not ?? false} aria-label={gone.label} title={gone.title} onClick={() => rows.remove(at)}>
				×
			</Button>
		</td>
	);
}

interface ListTableProps {
	/** what is listed */
	readonly of: string;
	readonly className: string;
	readonly mayChange: boolean;
	/** of its columns but the last, which holds each row’s buttons */
	readonly heads: readonly string[];
	/** heads over figures, which stand at the right */
	readonly figures?: readonly string[];
	readonly children: ReactNode;
}

/** A list of settings as a table whose rows are typed in. */
export function ListTable({ of, className, mayChange, heads, figures = [], children }: ListTableProps) {
	return (
		<fieldset disabled={!mayChange} className="panel p-0">
			<Scrolls of={of}>
				<table className={`table ${className}`}>
					<thead>
						<tr>
							{heads.map((words) => (
								<th key={words} className={figures.includes(words) ? "num" : undefined}>
									{words}
								</th>
							))}
							<th>
								<span className="visually-hidden">Order</span>
							</th>
						</tr>
					</thead>
					<tbody>{children}</tbody>
				</table>
			</Scrolls>
		</fieldset>
	);
}

interface ListBarProps {
	readonly add: ReactNode;
	readonly changed: boolean;
	readonly discard: () => void;
	readonly save: () => void;
	/** what the button says */
	readonly label: string;
	/** what the change would do, where that is worked out before it is saved */
	readonly effect?: ReactNode;
	/** it isn't worked out yet */
	readonly waits?: boolean;
}

/** What stands under a list of settings: a new row, and once something is changed, to discard or keep it. */
export function ListBar({ add, changed, discard, save, label, effect, waits = false }: ListBarProps) {
	return (
		<div className="setup-bar">
			{add}
			{changed && effect && (
				<div className="small-text" role="status">
					{effect}
				</div>
			)}
			{changed && (
				<div className="d-flex gap-2">
					<Button variant="link" onClick={discard}>
						Discard
					</Button>
					<Button disabled={waits} onClick={save}>
						{label}
					</Button>
				</div>
			)}
		</div>
	);
}
