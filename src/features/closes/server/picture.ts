import type { BarsPicture } from "@/formats/picture/picture";
import { short } from "../table/words";
import type { CloseView } from "./readClose";

/** What each rep won against their target. */
export function closePicture({ account }: Pick<CloseView, "account">): BarsPicture {
	const rows = account.reps.map(({ name, won, target }) => ({
		label: name,
		words: target ? `${short(account, won.amount)} of ${short(account, target)}` : short(account, won.amount),
		parts: [{ from: 0, to: won.amount, tone: "won" as const }],
		mark: target,
	}));
	return {
		kind: "bars",
		alt: rows.map(({ label, words }) => `${label}: ${words} won`).join("; "),
		rows,
		legend: [
			{ tone: "won", words: "won" },
			{ tone: "mark", words: "target" },
		],
	};
}
