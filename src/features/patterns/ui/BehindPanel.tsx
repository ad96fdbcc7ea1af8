"use client";
import Link from "next/link";
import { useEffect, useRef } from "react";
import { plural } from "@/core/words/grammar";
import { nearDate, wholeMoney } from "@/ui/format";
import type { BehindLine, BehindView } from "../table/view";

/** `12 of 19 were won in time; 3 deals of others’ can’t be shown to you.` */
export const behindWords = ({ sum, hidden }: BehindView): string => `${sum}${hidden > 0 ? `; ${plural(hidden, "deal")} of others’ aren’t shown to you` : ""}.`;

/** The deals behind a figure, each with what came of it. */
export function BehindLines({ lines, currency, seen }: { lines: readonly BehindLine[]; currency: string; seen: string }) {
	if (!lines.length) return <p className="second mb-0">No deals that you can see.</p>;
	return (
		<ul className="rows behind-lines">
			{lines.map(({ id, name, account, owner, amount, day, came, hit }, i) => (
				// A deal may stand behind a figure more than once, on several days.
				<li key={`${id} ${day} ${i}`}>
					<span>
						<Link href={`/deals/${encodeURIComponent(id)}?seen=${day}`}>{name}</Link>
						<span className="d-block tiny second">
							{account} · {owner} · seen {nearDate(day, seen)}
						</span>
					</span>
					<span className="text-end small-text">
						{amount !== null && <span className="d-block num text-nowrap">{wholeMoney(amount, currency)}</span>}
						<span className={`tiny ${hit === null ? "second" : hit ? "behind-hit" : "behind-other"}`}>{came}</span>
					</span>
				</li>
			))}
		</ul>
	);
}

/** The deals behind a figure: counted by hand, they come to it. */
export function BehindPanel({ behind, currency, seen, onClose }: { behind: BehindView; currency: string; seen: string; onClose: () => void }) {
	const head = useRef<HTMLHeadingElement>(null);
	// Whoever opened it by keys goes on in it.
	// biome-ignore lint/correctness/useExhaustiveDependencies: with every figure that is opened anew
	useEffect(() => head.current?.focus({ preventScroll: true }), [behind.key]);
	useEffect(() => {
		const close = (event: KeyboardEvent) => event.key === "Escape" && !event.defaultPrevented && onClose();
		window.addEventListener("keydown", close);
		return () => window.removeEventListener("keydown", close);
	}, [onClose]);
	return (
		<aside className="panel behind" aria-labelledby="behind-title">
			<div className="d-flex justify-content-between gap-2">
				<h3 id="behind-title" ref={head} tabIndex={-1}>
					{behind.title}
				</h3>
				<button type="button" className="btn-close no-print" aria-label="Close" onClick={onClose} />
			</div>
			<p className="second small-text mb-2">{behindWords(behind)}</p>
			<BehindLines lines={behind.lines} currency={currency} seen={seen} />
		</aside>
	);
}
