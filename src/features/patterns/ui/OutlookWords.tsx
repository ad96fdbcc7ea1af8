"use client";
import Link from "next/link";
import { shortMoney } from "@/ui/format";
import { useAddress } from "@/ui/frame/address";
import type { Result } from "@/ui/run";
import { bandWords, targetChance } from "./bandWords";

type Here = Result<"patterns.outlookHere">;

/** Where the period will end in a sentence or two, with how often such a band held: stands on Period under its headline. */
export function OutlookWords({ here, error }: { here: Here | undefined; error: string | null }) {
	const address = useAddress();
	if (error) return <p className="second mb-1">Couldn’t load the outlook: {error}</p>;
	const view = here?.outlook.answer;
	if (!view) return <p className="second mb-1 outlook-waits">Computing the outlook …</p>;
	if (!view.available) return <p className="second mb-1">No outlook: {view.reason}</p>;
	const { low, middle, high, target, currency, record } = view;
	const moved = here.moved.answer;
	const by = moved?.available ? moved.after - moved.before : 0;
	return (
		<p className="second mb-1">
			Most likely about <b>{shortMoney(middle, currency)}</b> (the median); between {shortMoney(low, currency)} and {shortMoney(high, currency)} in eight of ten
			cases.
			{target !== null && view.won < target && (
				<>
					{" "}
					The chance of the target is <b>{targetChance(view)}</b>.
				</>
			)}{" "}
			{bandWords(record)}
			{by !== 0 && ` Since ${here.againstWords} the expected total went ${by > 0 ? "up" : "down"} by ${shortMoney(Math.abs(by), currency)}.`}{" "}
			<Link href={address("/patterns")}>See the outlook</Link>
		</p>
	);
}
