"use client";
import Link from "next/link";
import { Amount } from "@/ui/parts/Amount";
import { Lamp } from "@/ui/parts/Lamp";
import type { DealLine } from "../server/lists";

type Level = "act" | "watch" | "calm";

interface Props {
	readonly deal: DealLine;
	readonly href: string;
	readonly currency: string;
	/** what is told below its name; what is empty is left out */
	readonly said: readonly (string | null | undefined)[];
}

/** A deal in two lines: its name and amount, and what is worth saying of it. */
export function DealLineItem({ deal, href, currency, said }: Props) {
	return (
		<li className="period-deal">
			<Lamp level={deal.level as Level} size={16} />
			<span className="period-deal-name">
				<Link href={href}>{deal.name}</Link>
				<span className="second small-text d-block">{said.filter(Boolean).join(" · ")}</span>
			</span>
			<span className="num">
				<Amount minor={deal.amount} currency={currency} />
			</span>
		</li>
	);
}
