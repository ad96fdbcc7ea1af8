import { surveyOn } from "@/core/survey";
import { formatDay } from "@/core/time/day";
import { plural } from "@/core/words/grammar";
import type { Account } from "@/data/organisation/state";
import { query } from "@/platform/command";
import type { Context } from "@/platform/context";
import { derivedFor } from "@/platform/derivedFor";
import { ownerName } from "@/platform/names";
import { reaches } from "@/platform/reach";
import type { Viewpoint } from "@/platform/viewpoint";
import { accountFacts, contactNames, fiscalYear } from "./facts";
import { type LostBy, type LostView, lostDeals } from "./lostDeals";

export interface AccountRow {
	readonly id: string;
	readonly name: string;
	readonly kind: string | null;
	readonly industry: string | null;
	readonly territory: string | null;
	readonly owner: string;
	readonly lastTouch: string | null;
	readonly lastKind: string | null;
	readonly lastWith: string | null;
	/** index of the band */
	readonly band: number;
	/** its open deals, the largest first, as many as a line has room for */
	readonly open: readonly { readonly id: string; readonly name: string; readonly amount: number; readonly level: string }[];
	readonly openCount: number;
	readonly openAmount: number;
	/** base minor units bought in this fiscal year and the one before */
	readonly thisYear: number;
	readonly lastYear: number;
}

export const ACCOUNT_ORDERS = ["silent", "recent", "open", "bought", "name"] as const;
export type AccountOrder = (typeof ACCOUNT_ORDERS)[number];

/** Which accounts are asked for, and how many. */
export interface AccountsLook {
	readonly order?: AccountOrder | undefined;
	readonly band?: number | null;
	/** words in the name or what else a line says */
	readonly text?: string | undefined;
	/** this account alone */
	readonly account?: string | undefined;
	readonly limit?: number;
	readonly lostBy?: LostBy | undefined;
	/** lost deals of this reason or competitor alone */
	readonly lost?: string | undefined;
}

export interface AccountsView {
	readonly order: AccountOrder;
	readonly band: number | null;
	readonly bands: readonly { readonly label: string; readonly count: number }[];
	/** all accounts of the viewpoint's people, and those not spoken to for a quarter or ever, with what is open there */
	readonly total: number;
	readonly silent: { readonly count: number; readonly open: number };
	/** the first of those that fit */
	readonly accounts: readonly AccountRow[];
	/** how many fit */
	readonly count: number;
	readonly lost: LostView;
	readonly currency: string;
	/** how this year and the last are called */
	readonly years: readonly [string, string];
}

/** How many open deals a line names. */
const NAMED = 3;

/** Accounts of the people of a viewpoint with their last contact, deals and purchases, seen on its day; lost deals with a way back. */
export const readAccounts = query(
	"accounts.read",
	"readAccounts",
	async (context: Context, viewpoint: Viewpoint, look: AccountsLook = {}): Promise<AccountsView> => {
		const { organisation } = context;
		const { contactBands } = organisation;
		const { rates, fiscalStart } = organisation.company.rules;
		const rows = await derivedFor(context, viewpoint, "accounts", () => allRows(context, viewpoint));
		const words = bandWords(contactBands);
		const band = look.band !== null && look.band !== undefined && look.band in words ? look.band : null;
		const order = look.order ?? "silent";
		const text = look.text?.trim().toLowerCase() ?? "";
		const fits = (row: AccountRow) =>
			(look.account === undefined || row.id === look.account) &&
			(band === null || row.band === band) &&
			(!text || `${row.name} ${row.owner} ${row.territory ?? ""} ${row.industry ?? ""} ${row.kind ?? ""}`.toLowerCase().includes(text));
		const found = rows.filter(fits).sort(COMPARE[order]);
		const shown = found.slice(0, look.limit);
		const names = await contactNames(shown.flatMap((row) => row.lastWith ?? []));
		const silent = rows.filter((row) => row.band >= words.length - 2);
		const year = fiscalYear(viewpoint.seen.day, fiscalStart);
		return {
			order,
			band,
			bands: words.map((one, i) => ({ label: one, count: rows.filter((row) => row.band === i).length })),
			total: rows.length,
			silent: { count: silent.length, open: silent.reduce((sum, row) => sum + row.openAmount, 0) },
			accounts: shown.map((row) => ({ ...row, lastWith: row.lastWith && (names.get(row.lastWith) ?? null) })),
			count: found.length,
			lost: await lostDeals(context, viewpoint, { by: look.lostBy ?? "reason", only: look.lost ?? null }),
			currency: rates.base,
			years: [yearWords(year, fiscalStart), yearWords(year - 1, fiscalStart)],
		};
	},
);

async function allRows({ organisation }: Context, viewpoint: Viewpoint): Promise<AccountRow[]> {
	const { company, contactBands } = organisation;
	const { day } = viewpoint.seen;
	const { scope } = viewpoint.whose;
	const { touches, bought } = await accountFacts(organisation, day);
	const open = new Map<string, AccountRow["open"][number][]>();
	const own = new Set<string>();
	surveyOn(company, day).deals.forEach((seen, deal) => {
		const name = organisation.deals[deal];
		if (!seen || !name?.accountId || !reaches(scope, seen.owner)) return;
		own.add(name.accountId);
		if (seen.status !== "open") return;
		const list = open.get(name.accountId) ?? [];
		list.push({ id: name.id, name: name.name || "No name", amount: seen.amountBase, level: seen.attention.level });
		open.set(name.accountId, list);
	});
	const isOwn = (account: Account) => scope === null || own.has(account.id) || reaches(scope, organisation.personIndex.get(account.ownerId ?? "") ?? -1);
	return [...organisation.accounts.values()].filter(isOwn).map((account): AccountRow => {
		const touch = touches.get(account.id);
		const deals = (open.get(account.id) ?? []).sort((a, b) => b.amount - a.amount || (a.id < b.id ? -1 : 1));
		const [thisYear, lastYear] = bought.get(account.id) ?? [0, 0];
		return {
			id: account.id,
			name: account.name || "No name",
			kind: account.kind,
			industry: account.industry,
			territory: account.territory,
			owner: ownerName(organisation, organisation.personIndex.get(account.ownerId ?? "") ?? -1),
			lastTouch: touch ? formatDay(touch.day) : null,
			lastKind: touch?.kind ?? null,
			lastWith: touch?.contact ?? null,
			band: touch ? bandOf(day - touch.day, contactBands) : contactBands.length + 1,
			open: deals.slice(0, NAMED),
			openCount: deals.length,
			openAmount: deals.reduce((sum, deal) => sum + deal.amount, 0),
			thisYear,
			lastYear,
		};
	});
}

type Compare = (a: AccountRow, b: AccountRow) => number;
const id: Compare = (a, b) => (a.id < b.id ? -1 : 1);
const touched: Compare = (a, b) => {
	const [one, other] = [a.lastTouch ?? "", b.lastTouch ?? ""];
	return one < other ? -1 : one > other ? 1 : 0;
};
const COMPARE: Readonly<Record<AccountOrder, Compare>> = {
	silent: (a, b) => touched(a, b) || b.openAmount - a.openAmount || id(a, b),
	recent: (a, b) => touched(b, a) || id(a, b),
	open: (a, b) => b.openAmount - a.openAmount || id(a, b),
	bought: (a, b) => b.thisYear - a.thisYear || id(a, b),
	name: (a, b) => a.name.localeCompare(b.name, "en") || id(a, b),
};

/** The band of a number of calendar days: the first whose upper end they don't pass. */
export function bandOf(days: number, bands: readonly number[]): number {
	const found = bands.findIndex((end) => days <= end);
	return found < 0 ? bands.length : found;
}

/** `to 14 days`, `15 to 42 days`, …, `longer`, `never`. */
export function bandWords(bands: readonly number[]): string[] {
	const words = bands.map((end, i) => (i === 0 ? `up to ${plural(end, "day")}` : `${(bands[i - 1] as number) + 1} to ${end} days`));
	return [...words, `over ${bands.at(-1)} days`, "never"];
}

const yearWords = (year: number, start: number) => (start > 1 ? `FY ${year}` : String(year));
