import { LOOKS_BACK } from "@/core/accounts/touch";
import { derive, keyOf } from "@/core/derive";
import { formatDay, NO_DAY } from "@/core/time/day";
import { yearOf, yearWords } from "@/core/time/fiscal";
import { plural } from "@/core/words/grammar";
import type { Account, OrganisationState } from "@/data/organisation/state";
import { query } from "@/platform/command";
import type { Context } from "@/platform/context";
import { ANSWERS_KEPT, viewpointKey } from "@/platform/derivedFor";
import { ownerName } from "@/platform/names";
import type { Viewpoint } from "@/platform/viewpoint";
import { type AccountLine, accountLines } from "./accountLines";
import { contactNames } from "./facts";
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
		const { rates, fiscal } = organisation.company.rules;
		const lines = await derive(
			organisation.company,
			"account lines",
			keyOf(organisation.accounts, viewpointKey(viewpoint)),
			() => accountLines(organisation, viewpoint.seen.day, viewpoint.whose.scope),
			ANSWERS_KEPT,
		);
		const words = bandWords(contactBands);
		const band = look.band !== null && look.band !== undefined && look.band in words ? look.band : null;
		const order = look.order ?? "silent";
		const text = look.text?.trim().toLowerCase() ?? "";
		const fits = ({ account, band: own }: AccountLine) =>
			(look.account === undefined || account.id === look.account) &&
			(band === null || own === band) &&
			(!text || told(organisation, account).toLowerCase().includes(text));
		const found = derive(lines, "accounts in order", order, () => [...lines].sort(COMPARE[order])).filter(fits);
		const shown = found.slice(0, look.limit);
		const names = await contactNames(shown.flatMap(({ touch }) => touch?.contact ?? []));
		const silent = lines.filter((line) => line.band >= words.length - 2);
		const counts = words.map(() => 0);
		for (const line of lines) counts[line.band] = (counts[line.band] ?? 0) + 1;
		const { day } = viewpoint.seen;
		return {
			order,
			band,
			bands: words.map((label, i) => ({ label, count: counts[i] as number })),
			total: lines.length,
			silent: { count: silent.length, open: silent.reduce((sum, line) => sum + line.openAmount, 0) },
			accounts: shown.map((line) => rowOf(organisation, line, names)),
			count: found.length,
			lost: lostDeals(context, viewpoint, { by: look.lostBy ?? "reason", only: look.lost ?? null }),
			currency: rates.base,
			years: [yearWords(day, fiscal), yearWords(yearOf(day, fiscal).start - 1, fiscal)],
		};
	},
);

const nameOf = (account: Account) => account.name || "No name";
const ownerOf = (organisation: OrganisationState, account: Account) => ownerName(organisation, organisation.personIndex.get(account.ownerId ?? "") ?? -1);
/** What a text is looked for in. */
const told = (organisation: OrganisationState, account: Account) =>
	[nameOf(account), ownerOf(organisation, account), account.territory ?? "", account.industry ?? "", account.kind ?? ""].join(" ");

function rowOf(organisation: OrganisationState, line: AccountLine, contacts: ReadonlyMap<string, string>): AccountRow {
	const { account, touch, open, openAmount, inYears } = line;
	const deals = [...open].sort((a, b) => b.amount - a.amount || (a.id < b.id ? -1 : 1)).slice(0, NAMED);
	return {
		id: account.id,
		name: nameOf(account),
		kind: account.kind,
		industry: account.industry,
		territory: account.territory,
		owner: ownerOf(organisation, account),
		lastTouch: touch ? formatDay(touch.day) : null,
		lastKind: touch?.kind ?? null,
		lastWith: (touch?.contact && contacts.get(touch.contact)) ?? null,
		band: line.band,
		open: deals.map(({ id, name, amount, level }) => ({ id, name, amount, level })),
		openCount: open.length,
		openAmount,
		thisYear: inYears[0],
		lastYear: inYears[1],
	};
}

type Compare = (a: AccountLine, b: AccountLine) => number;
const id: Compare = (a, b) => (a.account.id < b.account.id ? -1 : 1);
const { compare } = new Intl.Collator("en");
/** The longest ago first, and never before that. */
const touched: Compare = (a, b) => (a.touch?.day ?? NO_DAY) - (b.touch?.day ?? NO_DAY);
const COMPARE: Readonly<Record<AccountOrder, Compare>> = {
	silent: (a, b) => touched(a, b) || b.openAmount - a.openAmount || id(a, b),
	recent: (a, b) => touched(b, a) || id(a, b),
	open: (a, b) => b.openAmount - a.openAmount || id(a, b),
	bought: (a, b) => b.inYears[0] - a.inYears[0] || id(a, b),
	name: (a, b) => compare(nameOf(a.account), nameOf(b.account)) || id(a, b),
};

/** `to 14 days`, `15 to 42 days`, …, `over 91 days`, `not in 365 days`. */
export function bandWords(bands: readonly number[]): string[] {
	const words = bands.map((end, i) => (i === 0 ? `up to ${plural(end, "day")}` : `${(bands[i - 1] as number) + 1} to ${end} days`));
	return [...words, `over ${bands.at(-1)} days`, `not in ${LOOKS_BACK} days`];
}
