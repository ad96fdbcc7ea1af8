"use client";
import Link from "next/link";
import { useState } from "react";
import { Button, Form } from "react-bootstrap";
import { plural } from "@/core/words/grammar";
import type { DealRow, EditChoices } from "@/features/deals";
import { BulkEdit } from "@/features/deals/ui/edit/BulkEdit";
import { editDealOf } from "@/features/deals/ui/edit/editDeal";
import { nearDate, shortMoney } from "@/ui/format";
import { Amount } from "@/ui/parts/Amount";

interface Props {
	readonly label: string;
	readonly rows: readonly DealRow[];
	readonly currency: string;
	readonly today: string;
	/** where Deals lists them */
	readonly href: string;
	/** null: nothing may be changed */
	readonly choices: EditChoices | null;
}

/** Deals whose date lies behind the period, or that have none: those that are ticked get a new one together. */
export function Redate({ label, rows, currency, today, href, choices }: Props) {
	const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
	const [editing, setEditing] = useState(false);
	if (!rows.length) return null;
	const chosen = rows.filter((row) => !left.has(row.id));
	const toggle = (id: string) =>
		setLeft((now) => {
			const next = new Set(now);
			if (!next.delete(id)) next.add(id);
			return next;
		});
	return (
		<details className="period-fold">
			<summary>
				<span>
					{label}: {plural(rows.length, "deal")}
				</span>{" "}
				<span className="num">
					{shortMoney(
						rows.reduce((sum, row) => sum + row.amount, 0),
						currency,
					)}
				</span>
			</summary>
			<ul className="period-deals">
				{rows.map((row) => (
					<li key={row.id} className="period-deal">
						{choices ? <Form.Check checked={!left.has(row.id)} onChange={() => toggle(row.id)} aria-label={`Re-date ${row.name}`} /> : <span />}
						<span className="period-deal-name">
							<Link href={`/deals/${encodeURIComponent(row.id)}`}>{row.name}</Link>
							<span className="second small-text d-block">
								{row.owner} · {row.close ? `was due ${nearDate(row.close, today)}` : "no date"} · {row.stage}
							</span>
						</span>
						<span className="num">
							<Amount minor={row.amount} currency={currency} />
						</span>
					</li>
				))}
			</ul>
			<p className="d-flex gap-2 align-items-center no-print">
				{choices && (
					<Button size="sm" disabled={!chosen.length} onClick={() => setEditing(true)}>
						Re-date {plural(chosen.length, "deal")}
					</Button>
				)}
				<Link href={href} className="small-text">
					See them in Deals
				</Link>
			</p>
			{editing && choices && <BulkEdit deals={chosen.map(editDealOf)} choices={choices} today={today} onClose={() => setEditing(false)} />}
		</details>
	);
}
