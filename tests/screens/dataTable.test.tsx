import { act, fireEvent, render, screen, within } from "@testing-library/react";
import { useState } from "react";
import { hydrateRoot } from "react-dom/client";
import { renderToString } from "react-dom/server";
import { describe, expect, test } from "vitest";
import { ROWS_AT_FIRST } from "@/ui/inBrowser";
import { DataTable } from "@/ui/parts/table/DataTable";

interface Deal {
	readonly id: string;
	readonly name: string;
	readonly amount: number | null;
}
const DEALS: readonly Deal[] = [
	{ id: "b", name: "Mixers", amount: 300 },
	{ id: "a", name: "deck ovens", amount: null },
	{ id: "c", name: "Slicers 10", amount: 1200 },
	{ id: "d", name: "Slicers 9", amount: 70 },
];
const COLUMNS = [
	{ key: "name", label: "Deal", names: true, by: (deal: Deal) => deal.name, cell: (deal: Deal) => deal.name },
	{ key: "amount", label: "Amount", num: true, by: (deal: Deal) => deal.amount, cell: (deal: Deal) => deal.amount ?? "–" },
	{ key: "open", label: "Open it", silent: true, cell: (deal: Deal) => <button type="button">Open {deal.name}</button> },
];
const names = () => screen.getAllByRole("rowheader").map((cell) => cell.textContent);
const head = (name: string) => screen.getByRole("columnheader", { name: new RegExp(name) });
const press = (name: string) => fireEvent.click(within(head(name)).getByRole("button"));

describe("a table", () => {
	test("is sorted by a head, then the other way, then as it came; what is blank stands last either way", () => {
		render(<DataTable of="Deals" rows={DEALS} rowKey={({ id }) => id} columns={COLUMNS} totals={[{ id: "", name: "Total", amount: 1 }]} />);
		expect(names()).toEqual(["Mixers", "deck ovens", "Slicers 10", "Slicers 9", "Total"]);
		press("Deal");
		expect(names()).toEqual(["deck ovens", "Mixers", "Slicers 9", "Slicers 10", "Total"]);
		expect(head("Deal").getAttribute("aria-sort")).toBe("ascending");
		press("Deal");
		expect(names()).toEqual(["Slicers 10", "Slicers 9", "Mixers", "deck ovens", "Total"]);
		press("Deal");
		expect(names()).toEqual(["Mixers", "deck ovens", "Slicers 10", "Slicers 9", "Total"]);
		expect(head("Deal").getAttribute("aria-sort")).toBeNull();
		// Figures stand the largest first.
		press("Amount");
		expect(names()).toEqual(["Slicers 10", "Mixers", "Slicers 9", "deck ovens", "Total"]);
		press("Amount");
		expect(names()).toEqual(["Slicers 9", "Mixers", "Slicers 10", "deck ovens", "Total"]);
		expect(within(head("Open it")).queryByRole("button")).toBeNull();
	});

	test("marks rows one by one, with Shift all between two, and all at once, in the order shown", () => {
		const told: [readonly string[], boolean][] = [];
		function Held() {
			const [marked, setMarked] = useState<ReadonlySet<string>>(new Set());
			const onMark = (ids: readonly string[], on: boolean) => {
				told.push([ids, on]);
				setMarked((now) => new Set(on ? [...now, ...ids] : [...now].filter((id) => !ids.includes(id))));
			};
			return (
				<DataTable of="Deals" rows={DEALS} rowKey={({ id }) => id} columns={COLUMNS} marks={{ marked, onMark }} markWords={({ name }) => `Select ${name}`} />
			);
		}
		render(<Held />);
		const box = (name: string) => screen.getByLabelText(name) as HTMLInputElement;
		fireEvent.click(box("Select Mixers"));
		expect(told).toEqual([[["b"], true]]);
		fireEvent.click(box("Select Slicers 10"), { shiftKey: true });
		expect(told[1]).toEqual([["a", "c"], true]);
		expect(box("Select all: Deals").indeterminate).toBe(true);
		fireEvent.click(box("Select all: Deals"));
		expect(["Mixers", "deck ovens", "Slicers 10", "Slicers 9"].map((name) => box(`Select ${name}`).checked)).toEqual([true, true, true, true]);
		fireEvent.click(box("Select deck ovens"));
		expect(told.at(-1)).toEqual([["a"], false]);
	});

	test("keeps rows under their headings, in their order, and says what would stand where there are none", () => {
		const [first, second, ...rest] = DEALS as [Deal, Deal, ...Deal[]];
		const { rerender } = render(
			<DataTable
				of="Deals"
				rows={[]}
				rowKey={({ id }) => id}
				columns={COLUMNS}
				sections={[
					{ key: "n", heading: "North", aside: <button type="button">Change North</button>, rows: [second, first] },
					{ key: "s", heading: "South", rows: rest },
				]}
			/>,
		);
		expect(names()).toEqual(["North", "deck ovens", "Mixers", "South", "Slicers 10", "Slicers 9"]);
		expect(within(head("Deal")).queryByRole("button")).toBeNull();
		expect(screen.getByRole("button", { name: "Change North" })).toBeTruthy();
		rerender(<DataTable of="Deals" rows={[]} rowKey={({ id }: Deal) => id} columns={COLUMNS} empty="No deals yet." />);
		expect(screen.queryByRole("table")).toBeNull();
		expect(screen.getByText("No deals yet.")).toBeTruthy();
	});

	test("keeps its order where it is asked to sort by a column that isn’t there, or can’t be sorted by", () => {
		for (const key of ["unheard", "open"]) {
			const sorting = { sort: { key, down: true }, onSort: () => undefined };
			const { unmount } = render(<DataTable of="Deals" rows={DEALS} rowKey={({ id }) => id} columns={COLUMNS} sorting={sorting} />);
			expect(names()).toEqual(["Mixers", "deck ovens", "Slicers 10", "Slicers 9"]);
			unmount();
		}
	});

	test("draws the first rows of a long list at once, and all of them after that", () => {
		const many = Array.from({ length: 90 }, (_, i) => ({ id: String(i), name: `Deal ${i}`, amount: i }));
		render(<DataTable of="Deals" rows={many} rowKey={({ id }) => id} columns={COLUMNS} />);
		expect(names()).toHaveLength(90);
	});
});

describe("a long table", () => {
	const rows = Array.from({ length: 40 }, (_, i): Deal => ({ id: `d${i}`, name: `Deal ${i}`, amount: i }));
	const table = <DataTable of="Deals" rows={rows} rowKey={({ id }) => id} columns={COLUMNS} />;
	test("is drawn by the server as far as it fills a screen, and by the browser to its end, once it takes over", async () => {
		const place = document.body.appendChild(document.createElement("div"));
		place.innerHTML = renderToString(table);
		const drawn = () => [...place.querySelectorAll("tbody th")].map((cell) => cell.textContent);
		expect(drawn()).toEqual(rows.slice(0, ROWS_AT_FIRST).map(({ name }) => name));
		const complaints: unknown[] = [];
		const root = await act(async () => hydrateRoot(place, table, { onRecoverableError: (error) => complaints.push(error) }));
		expect(drawn()).toEqual(rows.map(({ name }) => name));
		expect(complaints).toEqual([]);
		act(() => root.unmount());
		place.remove();
	});
	test("that the browser draws by itself is whole at once", () => {
		render(table);
		expect(names()).toHaveLength(rows.length);
	});
});
