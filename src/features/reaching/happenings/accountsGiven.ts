import { and, eq, gt } from "drizzle-orm";
import { plural } from "@/core/words/grammar";
import { connection } from "@/data/db";
import { audit } from "@/data/schema";
import { personName } from "@/platform/names";
import { happening } from "./happening";

const BACK = 24 * 3_600_000;

/** Accounts were given to somebody by another, or taken from them; those of one time are told as one. */
export const accountsGiven = happening({
	kind: "accounts-given",
	label: "accounts are given to me, or to another",
	usual: { onScreen: true, mail: "digest" },
	async find({ context: { organisation, now } }) {
		const rows = await connection()
			.db.select()
			.from(audit)
			.where(and(eq(audit.action, "account changed"), gt(audit.at, new Date(now.instant - BACK))));
		const told = new Map<string, { personId: string; byId: string | null; gains: boolean; accounts: string[] }>();
		for (const { personId: byId, at, subject, detail } of rows) {
			const [before, after] = [ownerOf(detail.before), ownerOf(detail.after)];
			if (after === undefined || before === after || !subject) continue;
			for (const [personId, gains] of [
				[after, true],
				[before, false],
			] as const) {
				if (!personId || personId === byId) continue;
				const key = `${personId} ${gains} ${byId} ${at.toISOString()}`;
				const one = told.get(key) ?? { personId, byId, gains, accounts: [] };
				one.accounts.push(subject);
				told.set(key, one);
			}
		}
		return [...told].map(([key, { personId, byId, gains, accounts }]) => ({
			personId,
			key,
			byId,
			facts: {
				by: personName(organisation, byId),
				gains,
				first: organisation.accounts.get(accounts[0] ?? "")?.name || "an account",
				more: accounts.length - 1,
			},
			path: accounts.length === 1 && gains ? `/accounts/${encodeURIComponent(accounts[0] ?? "")}` : "/accounts/territories",
		}));
	},
	say: ({ by, gains, first, more }) => {
		const which = `${first}${more ? ` and ${plural(Number(more), "more account")}` : ""}`;
		return `${by ?? "The program"} gives ${gains ? `you ${which}` : `${which} to another`}`;
	},
});

/** Whose an account was or is, of one side of a change; undefined where the change says nothing of it. */
const ownerOf = (side: unknown): string | null | undefined => (side as { ownerId?: string | null } | undefined)?.ownerId;
