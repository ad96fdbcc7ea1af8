"use client";
import Link from "next/link";
import type { ReactNode } from "react";
import { money } from "@/ui/format";
import type { Thread } from "./useThread";

/** Beside the river: the deal whose thread is drawn, and the week of the date. */
export function RiverSide({ thread, currency, sheet, children }: { thread: Thread; currency: string; sheet: (id: string) => string; children: ReactNode }) {
	const told = thread.deal;
	return (
		<section className="panel river-side" aria-label="The week of the date">
			<div className="river-told" aria-live="polite">
				{told ? (
					<>
						<b>{told.name}</b>{" "}
						<span className="second">
							{told.account} · {told.owner}
						</span>
						<span className="d-flex justify-content-between">
							<span>{money(thread.amount, currency)}</span>
							<Link href={sheet(told.id)}>Open the sheet</Link>
						</span>
					</>
				) : (
					<span className="third">Point at a band to draw that deal’s path; click to keep it.</span>
				)}
			</div>
			{children}
		</section>
	);
}
