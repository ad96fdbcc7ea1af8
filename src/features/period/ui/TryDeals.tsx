"use client";
import { useState } from "react";
import { Button } from "react-bootstrap";
import type { applyMoves, Move } from "@/core/period/try";
import { shortMoney, spaced } from "@/ui/format";
import { DataTable } from "@/ui/parts/table/DataTable";
import type { TryGround } from "../server/tryGround";

const SHOWN = 200;

interface DealsProps {
	readonly ground: TryGround;
	readonly result: ReturnType<typeof applyMoves>;
	readonly moves: readonly Move[];
	readonly onAdd: (move: Move) => void;
}

/** The open deals, largest first, each to be moved by hand. */
export function Deals({ ground, result, onAdd }: DealsProps) {
	const [all, setAll] = useState(false);
	const shown = all ? ground.deals : ground.deals.slice(0, 20);
	const move = (id: string, what: Move["what"]) => onAdd({ whom: { field: "deal", value: id }, what, percent: 100 });
	return (
		<section className="panel p-0" aria-label="Deals to move">
			<h3 className="groups-head mb-0">Deal by deal</h3>
			<DataTable
				of="Deals to move"
				className="groups-scroll"
				tableClass="mb-0 try-deals"
				rows={shown.slice(0, all ? SHOWN : 20)}
				rowKey={({ id }) => id}
				empty={<p className="second px-3">No deals are open in this period.</p>}
				columns={[
					{
						key: "deal",
						label: "Deal",
						by: ({ name }) => name,
						cell: ({ name, account }) => (
							<>
								<b>{name}</b> <span className="second">{account}</span>
							</>
						),
					},
					{ key: "rep", label: "Rep", by: ({ owner }) => owner, cell: ({ owner }) => owner },
					{ key: "category", label: "Category", by: ({ category }) => category, cell: ({ category }) => spaced(category) },
					{ key: "amount", label: "Amount", num: true, by: ({ amount }) => amount, cell: ({ amount }) => shortMoney(amount, ground.currency) },
					{
						key: "became",
						label: "In this try",
						cell: (deal) => becameWords(deal, result.deals[ground.deals.indexOf(deal)], ground.currency) || <span className="third">open</span>,
					},
					{
						key: "move",
						label: "Move",
						className: "no-print text-nowrap",
						cell: (deal) =>
							(["win", "drop", "push"] as const).map((what) => (
								<Button key={what} size="sm" variant="outline-primary" className="me-1" onClick={() => move(deal.id, what)} aria-label={`${what} ${deal.name}`}>
									{{ win: "Win", drop: "Drop", push: "Push" }[what]}
								</Button>
							)),
					},
				]}
			/>
			{!all && ground.deals.length > 20 && (
				<p className="p-2 mb-0">
					<Button size="sm" variant="link" onClick={() => setAll(true)}>
						Show all {ground.deals.length}
					</Button>
				</p>
			)}
		</section>
	);
}

/** What became of a deal in a try, each part with its amount; empty where it is open as it was. */
function becameWords({ amount }: TryGround["deals"][number], one: ReturnType<typeof applyMoves>["deals"][number] | undefined, currency: string): string {
	if (!one) return "";
	return [
		one.won ? `${shortMoney(one.won, currency)} won` : "",
		one.dropped ? `${shortMoney(one.dropped, currency)} dropped` : "",
		one.pushed ? `${shortMoney(one.pushed, currency)} pushed out` : "",
		one.priced ? `priced ${shortMoney(amount + one.priced, currency)}` : "",
	]
		.filter(Boolean)
		.join(", ");
}
