import type { Day } from "../../../core/time/day";
import type { Chance } from "../almanac";
import { teamOf } from "../cast";
import { type DealState, type Ledger, minor, PER_EURO, tidy } from "../ledger";
import { COMPETITORS, LOSS_REASONS, SOURCES } from "../words";
import type { DealGiven } from "./given";
import type { Start } from "./start";

/** Writes a deal down with its people and lines. */
export function addDeal(ledger: Ledger, chance: Chance, given: DealGiven, start: Start, minute: () => number): void {
	const { id, account, created } = given;
	const { almanac } = ledger;
	const { family, ending, lengths } = start.plan;
	const south = teamOf(account.owner) === "South";
	const competitor = chance.yes(0.45) ? (south && chance.yes(0.6) ? (COMPETITORS[0] as string) : chance.pick(COMPETITORS)) : null;
	const length = lengths.reduce((sum, n) => sum + n, 0);
	const finished = almanac.calendar.add(created, length) <= almanac.today;
	const reason = ending === "lost" && finished ? (competitor === COMPETITORS[0] ? "Price" : chance.pick(LOSS_REASONS)) : null;
	const name = chance.pick(family.deals).replace("{n}", String(chance.whole(2, 12)));
	ledger.add("deals.csv", {
		id,
		account_id: account.id,
		name,
		source: account.kind === "customer" ? "Existing customer" : chance.pick(SOURCES),
		created_at: almanac.at(created, minute()),
		competitor,
		outcome_reason: reason,
		tags: chance.yes(0.15) ? [chance.pick(["summer", "new-site", "energy"])] : [],
	});
	for (const contact of start.contacts) ledger.add("deal_contacts.csv", { deal_id: id, contact_id: contact });
	addLines(ledger, chance, given, start);
}

function addLines(ledger: Ledger, chance: Chance, { id, account: { currency } }: DealGiven, { plan: { family }, discount }: Start): void {
	const rate = PER_EURO[currency] ?? 1;
	for (const product of family.products.slice(0, chance.whole(1, family.products.length))) {
		const list = tidy(product.price * rate);
		ledger.add("deal_lines.csv", {
			deal_id: id,
			product: product.name,
			family: family.name,
			quantity: String(chance.whole(1, 4)),
			list_price: minor(list, currency),
			unit_price: minor(tidy(list * (1 - discount * (0.8 + chance.unit() * 0.4))), currency),
			currency,
		});
	}
}

/** Writes the order down that a won deal ends in. */
export function addOrder(ledger: Ledger, account: string, day: Day, product: string, { amount, currency }: DealState): void {
	ledger.add("orders.csv", { account_id: account, date: ledger.almanac.iso(day), product, amount: minor(amount ?? 0, currency), currency });
}
