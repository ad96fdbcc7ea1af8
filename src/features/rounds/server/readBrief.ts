import { formatDay } from "@/core/time/day";
import { readSheet } from "@/features/sheet";
import { query } from "@/platform/command";
import type { Context } from "@/platform/context";
import { type BriefPart, briefOf, briefText } from "./briefOf";
import { promisesOf } from "./promises";

export interface BriefView {
	readonly id: string;
	readonly title: string;
	readonly headline: string;
	/** the account’s id; null: it has none */
	readonly account: string | null;
	readonly owner: string;
	readonly on: string;
	readonly parts: readonly BriefPart[];
	readonly text: string;
}

/** A deal on one page, before a review or a visit. Throws 404 when it isn't within reach. */
export const readBrief = query("rounds.brief", "readRounds", async (context: Context, id: string): Promise<BriefView> => {
	const sheet = await readSheet(context, id, "", "");
	const parts = briefOf(sheet, await promisesOf(context, { deals: [id] }, context.now.day));
	const title = `${sheet.name}, ${sheet.account}`;
	const on = formatDay(context.now.day);
	return {
		id,
		title,
		headline: sheet.headline,
		account: sheet.identity.accountId,
		owner: sheet.owner,
		on,
		parts,
		text: briefText(`${title} (${on}, ${sheet.owner})\n${sheet.headline}`, parts),
	};
});
