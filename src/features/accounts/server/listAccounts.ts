import { query } from "@/platform/command";
import type { Context } from "@/platform/context";
import { dayAsked } from "@/platform/days";
import { Fault } from "@/platform/fault";
import { page } from "@/platform/http/api";
import { scopeOf } from "@/platform/reach";
import { type AccountJson, accountJson, bandKeys } from "./accountJson";
import { accountLines } from "./accountLines";

export interface AccountFilter {
	readonly as_of?: string | undefined;
	readonly team?: string | undefined;
	readonly owner?: string | undefined;
	/** such as `15_to_42`, or `never` */
	readonly band?: string | undefined;
	readonly risk?: boolean | undefined;
}

/** Accounts of some people as seen on a day, by id. */
export const listAccounts = query(
	"accounts.list",
	"readAccounts",
	async (
		context: Context,
		filter: AccountFilter,
		{ cursor, limit = Number.POSITIVE_INFINITY }: { cursor?: string | undefined; limit?: number } = {},
	): Promise<{ items: AccountJson[]; next: string | null }> => {
		const { organisation } = context;
		const day = dayAsked(context, "as_of", filter.as_of);
		const keys = bandKeys(organisation.contactBands);
		const band = filter.band === undefined ? null : keys.indexOf(filter.band);
		if (band === -1) throw new Fault(400, "Bad request", `band is ${filter.band}; it must be one of ${keys.join(", ")}.`);
		const lines = await accountLines(organisation, day, scopeOf(context, filter.team, filter.owner));
		const found = lines
			.filter((line) => (band === null || line.band === band) && (filter.risk === undefined || line.atRisk === filter.risk))
			.sort((a, b) => (a.account.id < b.account.id ? -1 : 1))
			.map((line) => ({ id: line.account.id, line }));
		const { items, next } = page(found, cursor, limit);
		return { items: items.map(({ line }) => accountJson(organisation, line)), next };
	},
);
