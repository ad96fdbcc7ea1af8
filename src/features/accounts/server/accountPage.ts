import { turnsOf } from "@/core/accounts/turns";
import { surveyOn } from "@/core/survey";
import { type Day, formatDay, NO_DAY } from "@/core/time/day";
import { listOfAccount } from "@/features/attachments";
import { query } from "@/platform/command";
import type { Context } from "@/platform/context";
import { ownerName } from "@/platform/names";
import { ownersFor } from "@/platform/owners";
import { may } from "@/platform/rights";
import type { Viewpoint } from "@/platform/viewpoint";
import { accountHistory } from "./accountHistory";
import type { AccountPage } from "./accountPageView";
import type { LogFilter } from "./logFilter";
import { mayGiveAway } from "./ownership";
import { pageLog } from "./pageLog";
import { choicesOf, dealsOf, notesOf, openOf } from "./pageParts";
import { peopleOf, signatoryKnown } from "./pagePeople";
import { ordersByAccount } from "./purchases";
import { type AccountStory, storyOf } from "./readAccount";

const WAYS = 5;

/** The whole story of an account that somebody reaches, as it stood on the day seen. */
export const readAccountPage = query(
	"accounts.page",
	"readAccounts",
	async (context: Context, viewpoint: Viewpoint, id: string, filter: LogFilter & { readonly limit: number }): Promise<AccountPage> => {
		// Long: one object, its parts in their order.
		const { organisation } = context;
		const { day } = viewpoint.seen;
		const story = await storyOf(context, id, day);
		const { account, touch, bought, atRisk } = story.line;
		const isNarrowed = Boolean(filter.kind || filter.person || filter.deal || filter.q);
		const [{ entries: lately, more: isLonger }, narrowed, notes, open, files, history] = await Promise.all([
			pageLog(context, id, day, {}, isNarrowed ? LOOKED_THROUGH : Math.max(filter.limit, LOOKED_THROUGH)),
			isNarrowed ? pageLog(context, id, day, filter, filter.limit) : null,
			notesOf(context, id, day),
			openOf(context, story, day),
			listOfAccount(context, id, day),
			accountHistory(context, id, day),
		]);
		// The whole log is what the next meeting is looked for in: it is read once.
		const { entries, more } = narrowed ?? { entries: lately.slice(0, filter.limit), more: isLonger || lately.length > filter.limit };
		const next = lately.filter((one) => one.planned && one.day >= formatDay(day)).at(-1) ?? null;
		return {
			id,
			version: account.version,
			name: account.name || "No name",
			kind: account.kind,
			industry: account.industry,
			territory: account.territory,
			owner: ownerName(organisation, organisation.personIndex.get(account.ownerId ?? "") ?? -1),
			customerSince: await firstOrder(context, id, day),
			lastContact: touch ? formatDay(touch.day) : null,
			waiting: waitingOf(context, story, day),
			bought,
			atRisk,
			signatoryKnown: signatoryKnown(story),
			years: await yearsOf(context, story, id, day),
			never: story.never,
			people: peopleOf(context, story, day),
			ways: story.ways.slice(0, WAYS).map((tie) => ({
				contact: story.contacts.find((one) => one.id === tie.contact)?.name ?? "",
				person: ownerName(organisation, tie.person),
				word: tie.word,
			})),
			deals: dealsOf(context, story, day),
			log: entries,
			more,
			shown: filter.limit,
			choices: choicesOf(context, story, day),
			open,
			notes,
			files,
			history,
			next,
			before: next ? (lately.find((one) => !one.planned && one.direction === "both") ?? null) : null,
			currency: organisation.company.rules.rates.base,
			seen: formatDay(day),
			past: viewpoint.seen.past,
			mayWrite: may(context.actor, "writeNotes") && !viewpoint.seen.past,
			edit:
				may(context.actor, "editAccounts") && !viewpoint.seen.past
					? { ownerId: account.ownerId, owners: mayGiveAway(context, account) ? ownersFor(context) : null }
					: null,
			mayGive: may(context.actor, "assignTasks") && !viewpoint.seen.past,
			mayMerge: may(context.actor, "mergeAccounts") && !viewpoint.seen.past && mayGiveAway(context, account),
		};
	},
);

/** among so many entries the next meeting and the last conversation are looked for */
const LOOKED_THROUGH = 200;

async function firstOrder({ organisation }: Context, id: string, day: Day): Promise<string | null> {
	const orders = (await ordersByAccount(organisation)).get(id) ?? [];
	const first = orders.reduce((least, one) => Math.min(least, one.day), Number.POSITIVE_INFINITY);
	return first <= day ? formatDay(first) : null;
}

function waitingOf({ organisation }: Context, { deals, line: { touch } }: AccountStory, day: Day): AccountPage["waiting"] {
	const seen = surveyOn(organisation.company, day).deals;
	const onDeals = deals.flatMap((deal) => {
		const waiting = seen[deal]?.status === "open" ? seen[deal]?.contact.waiting : null;
		return waiting ? [{ ...waiting, id: String(deal), planned: NO_DAY }] : [];
	});
	const side = touch?.direction === "in" ? ("they" as const) : touch?.direction === "out" ? ("we" as const) : null;
	const beside = touch && side && !deals.some((deal) => seen[deal]?.status === "open") ? [{ id: "", side, since: touch.day, planned: NO_DAY }] : [];
	const [first] = turnsOf([...onDeals, ...beside], day, organisation.company.rules.calendar);
	return first ? { side: first.waits.side, since: formatDay(first.waits.since), workingDays: first.workingDays } : null;
}

async function yearsOf({ organisation }: Context, { years }: AccountStory, id: string, day: Day): Promise<AccountPage["years"]> {
	const { rates } = organisation.company.rules;
	const orders = [...((await ordersByAccount(organisation)).get(id) ?? [])].filter((one) => one.day <= day).sort((a, b) => b.day - a.day);
	return years.map(({ year, from, amount, products }, i) => {
		const until = i === 0 ? day : (years[i - 1]?.from ?? day) - 1;
		const own = orders.filter((one) => one.day >= from && one.day <= until);
		return {
			year,
			amount,
			products,
			orders: own.map((one) => ({ day: formatDay(one.day), product: one.product, amount: rates.toBase(one.amount, one.currency, day) })),
		};
	});
}
