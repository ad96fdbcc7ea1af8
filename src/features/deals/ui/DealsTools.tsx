"use client";
import { Button, Form } from "react-bootstrap";
import type { DealsView } from "../server/readDeals";
import type { SavedView } from "../server/views";
import type { DealRow } from "../table/row";
import { STATUSES, type Status } from "../table/statuses";
import { ColumnsMenu } from "./ColumnsMenu";
import { FilterMenu } from "./FilterBar";
import { DealsExport, GroupMenu } from "./ListMenus";
import type { useTable } from "./useTable";
import { ViewsMenu } from "./ViewsMenu";

const STATUS_WORDS: Readonly<Record<Status, string>> = { open: "Open deals", won: "Won deals", lost: "Lost deals", closed: "All that closed" };

interface Props {
	readonly view: DealsView;
	readonly views: readonly SavedView[];
	readonly table: ReturnType<typeof useTable>;
	/** what is shown, in its order */
	readonly ids: readonly DealRow[];
}

/** Over the table: views, filters, groups, columns, files, and finding words in it. */
export function DealsTools({ view, views, table, ids }: Props) {
	const { filters, cols, group, text } = table;
	return (
		<div className="deals-tools no-print">
			<div className="deals-menus">
				<Form.Select
					size="sm"
					className="deals-status"
					aria-label="Which deals"
					value={table.status}
					onChange={(event) => void table.set({ status: event.target.value as Status })}
				>
					{STATUSES.map((status) => (
						<option key={status} value={status}>
							{STATUS_WORDS[status]}
						</option>
					))}
				</Form.Select>
				<ViewsMenu views={views} current={table.view} />
				<FilterMenu rows={view.rows} filters={filters} currency={view.currency} set={table.setFilters} />
				<GroupMenu group={group} set={(next) => void table.set({ group: next })} />
				<ColumnsMenu shown={cols} set={(next) => void table.set({ cols: next })} />
				{table.status === "open" && (
					<Button size="sm" variant="outline-primary" aria-pressed={table.drawn} active={table.drawn} onClick={() => void table.set({ drawn: !table.drawn })}>
						Picture
					</Button>
				)}
				<DealsExport columns={cols} status={table.status} ids={ids.map((row) => row.id)} />
			</div>
			<Form.Control
				className="deals-find"
				type="search"
				size="sm"
				value={text}
				placeholder="Find in this list"
				aria-label="Find in this list: deals, accounts, reps, next steps"
				onChange={(event) => void table.set({ text: event.target.value || null })}
				onKeyDown={(event) => {
					if (event.key === "Escape") {
						void table.set({ text: null });
						event.currentTarget.blur();
						event.stopPropagation();
					}
				}}
			/>
		</div>
	);
}
