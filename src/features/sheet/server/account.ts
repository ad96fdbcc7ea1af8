import { byText } from "@/core/deal/order";
import type { DealSeen } from "@/core/dealSeen";
import { surveyOn } from "@/core/survey";
import { formatDay, isoOrNull, NO_DAY, parseDay } from "@/core/time/day";
import { accountsOn, identityOn } from "@/data/organisation/former";
import type { DealRecords } from "@/data/queries/dealRecords";
import type { Context } from "@/platform/context";
import { dealsByAccount } from "@/platform/dealsByAccount";
import { reaches, reachOf } from "@/platform/reach";

export interface SheetAccount {
	readonly id: string;
	readonly name: string;
	readonly kind: string | null;
	readonly industry: string | null;
	readonly territory: string | null;
	/** over all deals of the account that the person reaches */
	readonly lastTouch: string | null;
	/** what was bought, by calendar year and product, in base minor units */
	readonly orders: readonly { readonly year: string; readonly product: string; readonly count: number; readonly amount: number }[];
	readonly others: readonly {
		readonly id: string;
		readonly name: string;
		readonly status: string;
		readonly stage: string;
		readonly amount: number;
		readonly closed: string | null;
	}[];
}

/** The account behind a deal, seen on a day: what it bought, its other deals, when it was last spoken to. */
export function accountOf(context: Context, deal: number, records: DealRecords, day: number): SheetAccount | null {
	const { organisation } = context;
	const attributes = organisation.deals[deal];
	const account = accountsOn(organisation, day).get((attributes && identityOn(attributes, day).accountId) ?? "");
	if (!account) return null;
	const { rates, stages } = organisation.company.rules;
	const reach = reachOf(organisation, context.actor);
	const seen = surveyOn(organisation.company, day).deals;
	const own = (dealsByAccount(organisation, day).get(account.id) ?? []).flatMap((i) => {
		const [name, found] = [organisation.deals[i], seen[i]];
		return name && found && reaches(reach, found.owner) ? [{ name, found }] : [];
	});
	const last = own.reduce((newest, { found }) => Math.max(newest, found.contact.lastTouch), NO_DAY);
	const sums = new Map<string, { year: string; product: string; count: number; amount: number }>();
	for (const order of records.orders) {
		if (order.amount === null || order.date > formatDay(day)) continue;
		const year = order.date.slice(0, 4);
		const product = order.product || "no product named";
		const sum = sums.get(`${year} ${product}`) ?? { year, product, count: 0, amount: 0 };
		sum.count++;
		sum.amount += rates.toBase(order.amount, order.currency ?? rates.base, parseDay(order.date) ?? day);
		sums.set(`${year} ${product}`, sum);
	}
	return {
		id: account.id,
		name: account.name || "No name",
		kind: account.kind,
		industry: account.industry,
		territory: account.territory,
		lastTouch: isoOrNull(last),
		orders: [...sums.values()].sort((a, b) => (a.year < b.year ? 1 : a.year > b.year ? -1 : b.amount - a.amount || byText(a.product, b.product))),
		others: own
			.filter(({ found }) => found.deal !== deal)
			.sort((a, b) => rank(a.found) - rank(b.found) || b.found.amountBase - a.found.amountBase || byText(a.name.id, b.name.id))
			.map(({ name, found }) => ({
				id: name.id,
				name: name.name || "No name",
				status: found.status,
				stage: stages[found.stageIndex]?.name ?? "",
				amount: found.amountBase,
				closed: isoOrNull(found.closedDay),
			})),
	};
}

const rank = (seen: DealSeen) => ["open", "won", "lost"].indexOf(seen.status);
