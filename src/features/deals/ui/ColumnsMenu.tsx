"use client";
import { Dropdown, Form } from "react-bootstrap";
import { COLUMNS, columnOf, STANDARD_COLUMNS } from "../columns";

/** Which columns are shown, and in which order. The deal itself always is. */
export function ColumnsMenu({ shown, set }: { shown: readonly string[]; set: (columns: string[] | null) => void }) {
	// Long: one menu, its entries in their order.
	const move = (key: string, step: number) => {
		const next = [...shown];
		const at = next.indexOf(key);
		const to = Math.min(next.length - 1, Math.max(0, at + step));
		next.splice(at, 1);
		next.splice(to, 0, key);
		set(next);
	};
	return (
		<Dropdown autoClose="outside" align="end">
			<Dropdown.Toggle size="sm" variant="outline-primary">
				Columns
			</Dropdown.Toggle>
			<Dropdown.Menu className="columns-menu">
				<Dropdown.Header>Shown, from the left</Dropdown.Header>
				{shown.map((key, i) => (
					<div key={key} className="column-line">
						<Form.Check
							id={`column-${key}`}
							label={columnOf(key)?.label ?? key}
							checked
							disabled={key === "name"}
							onChange={() => set(shown.filter((other) => other !== key))}
						/>
						<span className="text-nowrap">
							<button
								type="button"
								className="plain-button"
								aria-label={`${columnOf(key)?.label} further left`}
								disabled={i === 0}
								onClick={() => move(key, -1)}
							>
								↑
							</button>{" "}
							<button
								type="button"
								className="plain-button"
								aria-label={`${columnOf(key)?.label} further right`}
								disabled={i === shown.length - 1}
								onClick={() => move(key, 1)}
							>
								↓
							</button>
						</span>
					</div>
				))}
				<Dropdown.Divider />
				<Dropdown.Header>More</Dropdown.Header>
				{COLUMNS.filter(({ key }) => !shown.includes(key)).map(({ key, label }) => (
					<div key={key} className="column-line">
						<Form.Check id={`column-${key}`} label={label} checked={false} onChange={() => set([...shown, key])} />
					</div>
				))}
				<Dropdown.Divider />
				<Dropdown.Item as="button" type="button" disabled={shown.join() === STANDARD_COLUMNS.join()} onClick={() => set(null)}>
					Reset columns
				</Dropdown.Item>
			</Dropdown.Menu>
		</Dropdown>
	);
}
