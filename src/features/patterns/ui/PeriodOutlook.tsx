"use client";
import type { ReactNode } from "react";
import type { KnownOutlook } from "@/features/period/ui/slots";
import { Deciding } from "./Deciding";
import { OutlookWords } from "./OutlookWords";
import { useOutlook } from "./useOutlook";

interface Props {
	readonly revision: number;
	readonly wanted: boolean;
	readonly seen: string;
	readonly children: (known: KnownOutlook) => ReactNode;
}

/** The outlook as Period shows it: its band on the beam and in the chart, a sentence, and the deals that decide. */
export function PeriodOutlook({ revision, wanted, seen, children }: Props) {
	const { data, error } = useOutlook(revision, wanted);
	const foretold = data?.outlook.answer;
	return children({
		band: foretold?.available ? foretold : null,
		words: wanted && <OutlookWords here={data} error={error?.message ?? null} />,
		deciding: <Deciding view={foretold} seen={seen} />,
		chances: foretold?.available ? new Map(foretold.deals.map(({ id, chance }) => [id, chance])) : null,
	});
}
