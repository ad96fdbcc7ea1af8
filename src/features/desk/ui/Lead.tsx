"use client";
import Link from "next/link";
import { useRouter } from "next/navigation";
import { useEffect, useState } from "react";
import { Button } from "react-bootstrap";
import { useHotkeys } from "react-hotkeys-hook";
import type { Light } from "@/core/attention/attention";
import { plural } from "@/core/words/grammar";
import { shortMoney } from "@/ui/format";
import { Lamp } from "@/ui/parts/Lamp";
import { useRun } from "@/ui/run";
import { useAct } from "@/ui/useAct";
import type { LeadDesk, LeadItem } from "../server/leadView";

/** What waits for a manager: gone through with J and K, opened with O, set aside with E, until nothing is left. */
export function Lead({ desk }: { desk: LeadDesk }) {
	const run = useRun();
	const act = useAct();
	const router = useRouter();
	const { looked } = desk;
	useEffect(() => {
		if (!looked) void run("desk.look", {});
	}, [looked, run]);
	const aside = ({ id: item, words, about }: LeadItem) =>
		act(run("desk.setAside", { item, words, about }), "Set aside. It’s back when something about it changes.", () =>
			run("desk.setAside", { item, words, about, aside: false }),
		);
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
	useHotkeys("o", () => here && router.push(here.path), keys, [here]);
	useHotkeys("e", () => here && void aside(here), keys, [here]);
	if (!desk.parts.length)
		return (
			<p className="panel second">
				Nothing waits for you: no answer is asked for, no task was handed back or is late, no round is due, and no deal came to act.
				{desk.aside > 0 && ` You set ${plural(desk.aside, "item")} aside; each is back when something about it changes.`}
			</p>
		);
	return (
		<section aria-label="What waits for me">
			<p className="second small-text no-print">J and K go through what waits, O opens it, E sets it aside until something about it changes.</p>
			{desk.parts.map(({ key, heading, items, count, path }) => (
				<div key={key} className="panel lead-part">
					<h2>
						{heading} <span className="second">{count}</span>
					</h2>
					<ul className="rows small-text">
						{items.map((item) => (
							<Line key={item.id} item={item} here={item === here} currency={desk.currency} onAside={() => void aside(item)} />
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

interface LineProps {
	readonly item: LeadItem;
	readonly here: boolean;
	readonly currency: string;
	readonly onAside: () => void;
}

function Line({ item: { id, words, about, path, level, amount }, here, currency, onAside }: LineProps) {
	return (
		<li className={here ? "here" : undefined} data-lead={id}>
			<span>
				{level && <Lamp level={level as Light} size={16} />} <Link href={path}>{words}</Link>
				<span className="d-block tiny second">{about}</span>
			</span>
			<span className="text-nowrap">
				{amount !== null && <span className="num">{shortMoney(amount, currency)}</span>}
				<Button size="sm" variant="link" className="no-print" aria-label={`Set aside: ${words}`} onClick={onAside}>
					Set aside
				</Button>
			</span>
		</li>
	);
}
