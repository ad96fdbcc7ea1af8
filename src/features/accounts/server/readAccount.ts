import { boughtYears } from "@/core/accounts/bought";
import { neverBoughtBy } from "@/core/accounts/neverBought";
import { type Tie, tiesOf, waysIn } from "@/core/accounts/ties";
import { type AccountTouch, newestOf } from "@/core/accounts/touch";
import { worksOn } from "@/core/people/person";
import { surveyOn } from "@/core/survey";
import { type Day, formatDay } from "@/core/time/day";
import { accountsOn } from "@/data/organisation/former";
import { type DealJson, dealJson } from "@/features/deals";
import { query } from "@/platform/command";
import type { Context } from "@/platform/context";
import { dayAsked } from "@/platform/days";
import { notFound } from "@/platform/fault";
import { reachOf } from "@/platform/reach";
import { dealsReached, reachAccount } from "@/platform/reachAccount";
import { accountJson } from "./accountJson";
import { type AccountLine, accountLineOf } from "./accountLines";
import { type AccountContact, contactsOf } from "./contacts";
import { familiesOn, ordersByAccount } from "./purchases";
import { touchesWith } from "./touches";

/** All figures of one account, seen on a day. */
export interface AccountStory {
	readonly line: AccountLine;
	readonly years: ReturnType<typeof boughtYears>;
	readonly never: ReturnType<typeof neverBoughtBy>;
	readonly contacts: readonly (AccountContact & { readonly last: AccountTouch | null })[];
	/** the closest first */
	readonly ties: readonly Tie[];
	readonly ways: readonly Tie[];
	/** by index: the deals that the person asking reaches */
	readonly deals: readonly number[];
}

/** The figures of an account that the actor reaches. Ties are those of all of ours: who knows whom is no deal's secret. */
export async function storyOf(context: Context, id: string, day: Day): Promise<AccountStory> {
	const { organisation } = context;
	const { rates, fiscal, calendar } = organisation.company.rules;
	reachAccount(context, id);
	const account = accountsOn(organisation, day).get(id);
	if (!account) throw notFound("account", id);
	const [line, orders, families, people] = await Promise.all([
		accountLineOf(organisation, account, day, reachOf(organisation, context.actor)),
		ordersByAccount(organisation),
		familiesOn(organisation, day),
		contactsOf(organisation, id, day),
	]);
	const touches = await touchesWith(
		organisation,
		people.map((one) => one.id),
		day,
	);
	const own = new Set(people.map((one) => one.id));
	const ties = tiesOf(touches, { day, calendar }).filter(({ contact }) => own.has(contact));
	const decides = new Set(people.flatMap((one) => (one.buyingRole === "decision_maker" ? [one.id] : [])));
	const personId = (index: number) => {
		const person = organisation.people[index];
		return person && worksOn(person, day) ? person.id : null;
	};
	const seen = surveyOn(organisation.company, day).deals;
	return {
		line,
		years: boughtYears(orders.get(id) ?? [], day, rates, fiscal),
		never: neverBoughtBy(account, families),
		contacts: people.map((one) => ({ ...one, last: newestOf(touches.filter(({ contacts }) => contacts.includes(one.id))) })),
		ties,
		ways: waysIn(ties, (contact) => decides.has(contact), personId),
		deals: dealsReached(context, id, day).filter((deal) => seen[deal]),
	};
}

/** One account as the API tells of it. */
export const readAccountOfApi = query("accounts.one", "readAccounts", async (context: Context, id: string, asOf: string | undefined) => {
	const { organisation } = context;
	const day = dayAsked(context, "as_of", asOf);
	const { line, years, never, contacts, ties, ways, deals } = await storyOf(context, id, day);
	const personOf = ({ person }: Tie) => organisation.people[person]?.id ?? "";
	const seen = surveyOn(organisation.company, day).deals;
	return {
		...accountJson(organisation, line),
		years: years.map(({ year, amount, products }) => ({ year, amount, products: products.map((one) => ({ ...one })) })),
		neverBought: never.map(({ family }) => family),
		deals: deals.flatMap((deal): DealJson[] => {
			const one = seen[deal];
			return one ? [dealJson(organisation, one, day)] : [];
		}),
		contacts: contacts.map(({ last, ...contact }) => ({ ...contact, lastContact: last ? formatDay(last.day) : null })),
		ties: ties.map((one) => ({
			contactId: one.contact,
			personId: personOf(one),
			tie: one.tie,
			word: one.word,
			conversations: one.conversations,
			last: formatDay(one.last.day),
			answers: one.answers && { ...one.answers },
		})),
		waysIn: ways.map((one) => ({ contactId: one.contact, personId: personOf(one) })),
	};
});
