"use client";
import Link from "next/link";
import { Button } from "react-bootstrap";
import { longDate } from "@/ui/format";
import { useNotice } from "@/ui/Notices";
import type { BriefView } from "../server/readBrief";
import "@/features/sheet/ui/sheet.css";
import "./rounds.css";

/** A deal on one page: each line with where it stands, to be printed or copied. */
export function BriefScreen({ view }: { view: BriefView }) {
	const notice = useNotice();
	const copy = async () => {
		const done = await navigator.clipboard?.writeText(view.text).then(
			() => true,
			() => false,
		);
		notice({ words: done ? "Brief copied as text." : "The browser doesn’t allow copying; select the text on the page instead." });
	};
	return (
		<div className="brief">
			<div className="brief-head">
				<div>
					<p className="sheet-headline mb-1">{view.headline}</p>
					<p className="second small-text mb-0">
						{view.owner}, {longDate(view.on)}. Every line comes from stored data; its source is beside it.
					</p>
				</div>
				<span className="no-print text-nowrap">
					<Button size="sm" onClick={() => void copy()}>
						Copy as text
					</Button>{" "}
					<Button size="sm" variant="outline-primary" onClick={() => window.print()}>
						Print
					</Button>{" "}
					<Link className="btn btn-sm btn-outline-primary" href={`/deals/${encodeURIComponent(view.id)}`}>
						The sheet
					</Link>{" "}
					{view.account && (
						<Link className="btn btn-sm btn-outline-primary" href={`/accounts/${encodeURIComponent(view.account)}`}>
							The account
						</Link>
					)}
				</span>
			</div>
			<div className="brief-parts">
				{view.parts.map(({ heading, lines, none }) => (
					<section key={heading} className="panel">
						<h2 className="brief-heading">{heading}</h2>
						{lines.length ? (
							<ul>
								{lines.map(({ words, source }, i) => (
									<li key={i}>
										{words} <span className="tiny second">{source}</span>
									</li>
								))}
							</ul>
						) : (
							<p className="second small-text mb-0">{none}</p>
						)}
					</section>
				))}
			</div>
		</div>
	);
}
