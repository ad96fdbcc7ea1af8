import { sql } from "drizzle-orm";
import { z } from "zod";
import { surveyOn } from "@/core/survey";
import { longDay } from "@/core/time/words";
import { connection } from "@/data/db";
import { lookup } from "@/platform/command";
import type { Context } from "@/platform/context";
import { accountName, dealName, ownerName } from "@/platform/names";
import { reaches, reachOf } from "@/platform/reach";

export interface Hit {
	readonly kind: "deal" | "account" | "person" | "colleague" | "quote" | "file" | "text";
	readonly title: string;
	readonly detail: string;
	/** the deal it leads to; for accounts and people without one, null */
	readonly dealId: string | null;
	/** the account it leads to */
	readonly accountId: string | null;
	/** the colleague whose deals it leads to */
	readonly personId?: string;
}

const MOST = 8;

/** Words as a pattern for `ilike`, in which nothing but the words counts. */
export const pattern = (words: string) => `%${words.replace(/[\\%_]/g, (sign) => `\\${sign}`)}%`;

const textSchema = z.object({ text: z.string().max(200) });

/** Finds deals, accounts, people of the buyer's and of ours, quotes by their numbers, files by their names, and text in notes, activities, answers, reasons, calls, minutes and quotes’ answers, among what the person reaches. */
export const search = lookup({ name: "search.find", right: "search", input: textSchema, run: ({ context, input }) => findAll(context, input.text) });

async function findAll(context: Context, text: string): Promise<Hit[]> {
	const words = text.trim().toLowerCase().slice(0, 100);
	if (words.length < 2) return [];
	const { organisation, now, actor } = context;
	const reach = reachOf(organisation, actor);
	const survey = surveyOn(organisation.company, now.day);
	const reached = (deal: number) => {
		const seen = survey.deals[deal];
		return seen && reaches(reach, seen.owner) ? seen : null;
	};
	const parts = words.split(/\s+/);
	const fits = (of: string) => parts.every((part) => of.toLowerCase().includes(part));

	const deals = organisation.deals
		.flatMap((name, deal) => {
			const seen = reached(deal);
			return seen && fits(`${name.name} ${accountName(organisation, deal)} ${name.id}`) ? [{ name, deal, seen }] : [];
		})
		.sort(
			(a, b) =>
				Number(b.seen.status === "open") - Number(a.seen.status === "open") ||
				b.seen.attention.score - a.seen.attention.score ||
				b.seen.amountBase - a.seen.amountBase,
		)
		.slice(0, MOST)
		.map(
			({ name, deal, seen }): Hit => ({
				kind: "deal",
				title: name.name || "No name",
				detail: `${accountName(organisation, deal)} · ${ownerName(organisation, seen.owner)} · ${seen.status}`,
				dealId: name.id,
				accountId: null,
			}),
		);

	const own = reachedAccounts(context);
	const accounts = [...organisation.accounts.values()]
		.filter((account) => own.has(account.id) && fits([account.name, ...account.also].join(" ")))
		.slice(0, MOST)
		.map(
			(account): Hit => ({
				kind: "account",
				title: account.name,
				detail: [account.kind, account.industry, account.territory].filter(Boolean).join(" · "),
				dealId: null,
				accountId: account.id,
			}),
		);
	return [
		...deals,
		...accounts,
		...colleagues(context, fits),
		...(await people(context, words, own)),
		...(await quotesOf(context, words)),
		...(await filesOf(context, words, own)),
		...(await texts(context, words)),
	];
}

/** Accounts the person owns or has deals with, or their team. */
function reachedAccounts({ organisation, now, actor }: Context): Set<string> {
	const reach = reachOf(organisation, actor);
	if (reach === null) return new Set(organisation.accounts.keys());
	const found = new Set<string>();
	for (const account of organisation.accounts.values()) if (reaches(reach, organisation.personIndex.get(account.ownerId ?? "") ?? -1)) found.add(account.id);
	surveyOn(organisation.company, now.day).deals.forEach((seen, deal) => {
		const account = organisation.deals[deal]?.accountId;
		if (seen && account && reaches(reach, seen.owner)) found.add(account);
	});
	return found;
}

/** Colleagues whose deals the person reaches, by name or address. */
function colleagues({ organisation, actor }: Context, fits: (of: string) => boolean): Hit[] {
	const reach = reachOf(organisation, actor);
	return organisation.people
		.flatMap((person, i): Hit[] =>
			reaches(reach, i) && fits(`${person.name} ${person.email ?? ""}`)
				? [
						{
							kind: "colleague",
							title: person.name,
							detail: [person.role, person.team].filter(Boolean).join(" · "),
							dealId: null,
							accountId: null,
							personId: person.id,
						},
					]
				: [],
		)
		.slice(0, MOST);
}

/** Quotes by their numbers. */
async function quotesOf(context: Context, words: string): Promise<Hit[]> {
	const { organisation } = context;
	const { rows } = await connection().db.execute(sql`
		select number, deal_id from quotes where number ilike ${pattern(words)} and deal_id = any(${sql.param(reachedDeals(context))}) order by number, id limit ${MOST}`);
	return rows.flatMap((row): Hit[] => {
		const deal = organisation.dealIndex.get(String(row.deal_id));
		return deal === undefined
			? []
			: [{ kind: "quote", title: `Quote ${row.number}`, detail: dealName(organisation, deal), dealId: String(row.deal_id), accountId: null }];
	});
}

/** Files and links by their names. */
async function filesOf(context: Context, words: string, own: ReadonlySet<string>): Promise<Hit[]> {
	const { organisation } = context;
	const { rows } = await connection().db.execute(sql`
		select name, deal_id, account_id from attachments
		where removed_at is null and name ilike ${pattern(words)}
			and (deal_id = any(${sql.param(reachedDeals(context))}::text[]) or account_id = any(${sql.param([...own])}::text[]))
		order by added_at desc, id limit ${MOST}`);
	return rows.map((row): Hit => {
		const deal = row.deal_id === null ? undefined : organisation.dealIndex.get(String(row.deal_id));
		const accountId = (row.account_id as string | null) ?? null;
		return {
			kind: "file",
			title: String(row.name),
			detail: deal === undefined ? (organisation.accounts.get(accountId ?? "")?.name ?? "") : dealName(organisation, deal),
			dealId: (row.deal_id as string | null) ?? null,
			accountId,
		};
	});
}

async function people({ organisation, actor }: Context, words: string, own: ReadonlySet<string>): Promise<Hit[]> {
	const within = reachOf(organisation, actor) === null ? sql`` : sql`and c.account_id = any(${sql.param([...own])})`;
	const { rows } = await connection().db.execute(sql`
		select c.id, c.name, c.title, c.account_id from contacts c
		where c.name ilike ${pattern(words)} and c.account_id is not null ${within} order by c.name, c.id limit ${MOST}`);
	return rows.map(
		(row): Hit => ({
			kind: "person",
			title: String(row.name),
			detail: [row.title, organisation.accounts.get(String(row.account_id))?.name].filter(Boolean).join(" · "),
			dealId: null,
			accountId: String(row.account_id),
		}),
	);
}

async function texts(context: Context, words: string): Promise<Hit[]> {
	const { organisation } = context;
	const found = await matchingTexts(context, words, MOST);
	return found.flatMap(({ dealId, text, at }): Hit[] => {
		const deal = organisation.dealIndex.get(dealId);
		if (deal === undefined) return [];
		const day = longDay(organisation.company.rules.zone.dayOf(at));
		return [{ kind: "text", title: excerpt(text, words), detail: `${dealName(organisation, deal)}, ${day}`, dealId, accountId: null }];
	});
}

/** The deals a person reaches today, by id. */
function reachedDeals({ organisation, now, actor }: Context): string[] {
	const reach = reachOf(organisation, actor);
	return surveyOn(organisation.company, now.day).deals.flatMap((seen, deal) =>
		seen && reaches(reach, seen.owner) ? (organisation.deals[deal]?.id ?? []) : [],
	);
}

/** Where some words stand, the newest first; looked for among what the person reaches. */
async function matchingTexts(context: Context, words: string, most: number | null): Promise<{ dealId: string; text: string; at: number }[]> {
	const like = pattern(words);
	// A walk is for the person who walks alone.
	const ownWalks = sql`not exists (select from rounds r where r.id = c.round_id and r.kind = 'walk' and r.started_by_id <> ${context.actor.person.id})`;
	const within = sql`deal_id = any(${sql.param(reachedDeals(context))})`;
	const { rows } = await connection().db.execute(sql`
		select deal_id, text, (extract(epoch from at) * 1000)::float8 as at from (
			select deal_id, at, concat_ws(': ', subject, body) as text from activities where deal_id is not null and (subject ilike ${like} or body ilike ${like})
			union all select deal_id, at, body from notes where body ilike ${like}
			union all select deal_id, at, note from answers where note ilike ${like}
			union all select deal_id, valid_from, reason from deal_versions where reason ilike ${like}
			union all select d.id, v.valid_from, d.outcome_reason from deals d join deal_versions v on v.deal_id = d.id and v.valid_to is null where d.outcome_reason ilike ${like}
			union all select deal_id, at, concat_ws(': ', call, why) from round_calls c where why ilike ${like} and ${ownWalks}
			union all select d.deal_id, r.started_at, d.note from round_deals d join rounds r on r.id = d.round_id where d.note ilike ${like} and (r.kind <> 'walk' or r.started_by_id = ${context.actor.person.id})
			union all select deal_id, at, reason from rests where reason ilike ${like}
			union all select deal_id, coalesce(answered_on, sent_on)::timestamptz, concat_ws(': ', number, answer) from quotes where answer ilike ${like}
		) found where ${within} order by at desc, deal_id limit ${most}`);
	return rows.map((row) => ({ dealId: String(row.deal_id), text: String(row.text), at: Number(row.at) }));
}

/** Ids of the deals of which some words stand anywhere in what was written of them, among those the person reaches. */
export const dealsWithText = lookup({
	name: "search.dealsWithText",
	right: "search",
	input: textSchema,
	run: ({ context, input }) => dealsWith(context, input.text),
});

async function dealsWith(context: Context, text: string): Promise<string[]> {
	const words = text.trim().slice(0, 100);
	if (!words) return [];
	return [...new Set((await matchingTexts(context, words, null)).map((found) => found.dealId))];
}

const AROUND = 40;

/** The words with a little of what stands around them. */
function excerpt(text: string, words: string): string {
	const at = Math.max(0, text.toLowerCase().indexOf(words));
	const from = Math.max(0, at - AROUND);
	const to = Math.min(text.length, at + words.length + AROUND);
	return `${from > 0 ? "… " : ""}${text.slice(from, to).replace(/\s+/g, " ")}${to < text.length ? " …" : ""}`;
}
