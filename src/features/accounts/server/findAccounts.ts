import { z } from "zod";
import { surveyOn } from "@/core/survey";
import { plural } from "@/core/words/grammar";
import { lookup } from "@/platform/command";
import { dealsByAccount } from "@/platform/dealsByAccount";
import { reaches, reachOf } from "@/platform/reach";

const MOST = 8;

/** Accounts that somebody reaches whose name has some words in it, to choose one from. */
export const findAccounts = lookup({
	name: "accounts.find",
	right: "readAccounts",
	input: z.object({ text: z.string().trim().max(200) }),
	run({ context, input: { text } }) {
		const { organisation, actor, now } = context;
		const words = text.toLowerCase().split(/\s+/).filter(Boolean);
		const reach = reachOf(organisation, actor);
		const seen = surveyOn(organisation.company, now.day).deals;
		const byAccount = dealsByAccount(organisation);
		const found: { id: string; name: string; about: string }[] = [];
		if (!words.length) return found;
		for (const { id, name, kind, territory, ownerId } of organisation.accounts.values()) {
			if (!words.every((word) => name.toLowerCase().includes(word))) continue;
			const own = reach === null || reaches(reach, organisation.personIndex.get(ownerId ?? "") ?? -1);
			const deals = byAccount.get(id) ?? [];
			if (!own && !deals.some((deal) => reaches(reach, seen[deal]?.owner ?? -1))) continue;
			found.push({ id, name, about: [kind, territory, plural(deals.length, "deal")].filter(Boolean).join(" · ") });
			if (found.length === MOST) break;
		}
		return found;
	},
});
