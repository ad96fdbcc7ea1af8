"use client";
import Link from "next/link";
import { useState } from "react";
import { useHotkeys } from "react-hotkeys-hook";
import type { Light } from "@/core/attention/attention";
import { shortMoney } from "@/ui/format";
import { Lamp } from "@/ui/parts/Lamp";
import type { LeadDesk, LeadItem } from "../server/leadView";

/** What waits for a manager: gone through with J and K, opened with O, until nothing is left. */
export function Lead({ desk }: { desk: LeadDesk }) {
	const all = desk.parts.flatMap(({ items }) => items);
	const [at, setAt] = useState(0);
	const here = all[Math.min(at, all.length - 1)];
	const move = (to: number) => {
		const place = Math.min(all.length - 1, Math.max(0, to));
		setAt(place);
		document.querySelector(`[data-lead="${CSS.escape(all[place]?.id ?? "")}"]`)?.scrollIntoView({ block: "nearest" });
	};
	const keys = { enabled: all.length > 0, preventDefault: true } as const;
	useHotkeys("j", () => move(at + 1), keys, [at, all.length]);
	useHotkeys("k", () => move(at - 1), keys, [at, all.length]);
	useHotkeys("o", () => here && window.location.assign(here.path), keys, [here]);
	if (!desk.parts.length)
		return (
			<p className="panel second">
				Nothing waits for you: no answer is asked for, no task was handed back or is late, no round is due, and no deal came to act.
			</p>
		);
	return (
		<section aria-label="What waits for me">
			<p className="second small-text no-print">J and K go through what waits, O opens it.</p>
			{desk.parts.map(({ key, heading, items, count, path }) => (
				<div key={key} className="panel lead-part">
					<h2>
						{heading} <span className="second">{count}</span>
					</h2>
					<ul className="rows small-text">
						{items.map((item) => (
							<Line key={item.id} item={item} here={item === here} currency={desk.currency} />
						))}
					</ul>
					{count > items.length && (
						<Link className="tiny" href={path}>
							All {count}
						</Link>
					)}
				</div>
			))}
		</section>
	);
}

function Line({ item: { id, words, about, path, level, amount }, here, currency }: { item: LeadItem; here: boolean; currency: string }) {
	return (
		<li className={here ? "here" : undefined} data-lead={id}>
			<span>
				{level && <Lamp level={level as Light} size={16} />} <Link href={path}>{words}</Link>
				<span className="d-block tiny second">{about}</span>
			</span>
			{amount !== null && <span className="num">{shortMoney(amount, currency)}</span>}
		</li>
	);
}
