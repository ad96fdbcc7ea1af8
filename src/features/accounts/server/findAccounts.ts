import { z } from "zod";
import { plural } from "@/core/words/grammar";
import { lookup } from "@/platform/command";
import { dealsByAccount } from "@/platform/dealsByAccount";
import { reachesAccount } from "@/platform/reachAccount";

const MOST = 8;

/** Accounts that somebody reaches whose name has some words in it, to choose one from. */
export const findAccounts = lookup({
	name: "accounts.find",
	right: "readAccounts",
	input: z.object({ text: z.string().trim().max(200) }),
	run({ context, input: { text } }) {
		const { organisation } = context;
		const words = text.toLowerCase().split(/\s+/).filter(Boolean);
		const byAccount = dealsByAccount(organisation);
		const found: { id: string; name: string; about: string }[] = [];
		if (!words.length) return found;
		for (const account of organisation.accounts.values()) {
			const { id, name, kind, territory, also } = account;
			const called = [name, ...also].join(" ").toLowerCase();
			if (!words.every((word) => called.includes(word)) || !reachesAccount(context, account)) continue;
			found.push({ id, name, about: [kind, territory, plural((byAccount.get(id) ?? []).length, "deal")].filter(Boolean).join(" · ") });
			if (found.length === MOST) break;
		}
		return found;
	},
});
