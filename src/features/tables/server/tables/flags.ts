import { ownerIn } from "@/core/bridge/scope";
import { surveyOn } from "@/core/survey";
import { column, outsideTable } from "../table";

interface Source {
	readonly deal: string;
	readonly flag: { readonly code: string; readonly severity: number; readonly label: string; readonly reason: string };
	readonly resting: boolean;
}

export const flags = outsideTable<Source>(
	"flags",
	"The flags of open deals, each with why it is lit.",
	[
		column("deal_id", "text", "", ({ deal }) => deal),
		column("flag", "text", "its code", ({ flag }) => flag.code),
		column("label", "text", "", ({ flag }) => flag.label),
		column("severity", "integer", "1 to 3", ({ flag }) => flag.severity),
		column("reason", "text", "in words", ({ flag }) => flag.reason),
		column("resting", "flag", "the deal is let rest", ({ resting }) => resting),
	],
	function* ({ organisation: { company, deals }, scope, day }) {
		for (const block of surveyOn(company, day).blocks)
			yield block.deals.flatMap((seen): Source[] =>
				seen?.status === "open" && ownerIn(scope, seen.owner)
					? seen.flags.map((flag) => ({ deal: deals[seen.deal]?.id ?? "", flag, resting: seen.rest !== null }))
					: [],
			);
	},
);
