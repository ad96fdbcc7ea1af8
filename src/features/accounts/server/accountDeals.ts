import type { DealBlock } from "@/core/company";
import { derive, keyOf } from "@/core/derive";
import { joined } from "@/core/joined";
import { type SeenBlock, surveyOn } from "@/core/survey";
import type { Day } from "@/core/time/day";
import { identityOn, outcomeOn } from "@/data/organisation/former";
import type { OrganisationState } from "@/data/organisation/state";

/** An open deal as its account tells of it; amount in base minor units. */
export interface OpenDeal {
	readonly account: string;
	readonly owner: number;
	readonly id: string;
	readonly name: string;
	readonly amount: number;
	readonly level: string;
}

/** A lost deal, by index; amount in base minor units. */
export interface LostLine {
	readonly deal: number;
	readonly owner: number;
	readonly id: string;
	readonly amount: number;
	readonly closedDay: Day;
	readonly reason: string;
	readonly competitor: string;
}

/** What accounts are told of the deals of a block. */
interface BlockDeals {
	/** whose deals each account has */
	readonly owners: ReadonlyMap<string, ReadonlySet<number>>;
	readonly open: readonly OpenDeal[];
	readonly lost: readonly LostLine[];
}

/** All deals by block, seen on a day. After a write the blocks that it touched are gone through anew, once for all who look. */
function blocksOn(organisation: OrganisationState, day: Day): readonly BlockDeals[] {
	const seen = surveyOn(organisation.company, day).blocks;
	return organisation.company.blocks.map((block, at) => {
		const one = seen[at] as SeenBlock;
		return derive(block, "deals of accounts", keyOf(day, one), () => dealsIn(organisation, block, one, day));
	});
}

function dealsIn(organisation: OrganisationState, { first }: DealBlock, { deals }: SeenBlock, day: Day): BlockDeals {
	const owners = new Map<string, Set<number>>();
	const open: OpenDeal[] = [];
	const lost: LostLine[] = [];
	deals.forEach((seen, place) => {
		const facts = organisation.deals[first + place];
		if (!seen || !facts) return;
		const { id } = facts;
		const { name, accountId } = identityOn(facts, day);
		const [owner, amount] = [seen.owner, seen.amountBase];
		if (seen.status === "lost") {
			const { outcomeReason, competitor } = outcomeOn(facts, day);
			const why = { reason: outcomeReason ?? "no reason given", competitor: competitor ?? "nobody named" };
			lost.push({ deal: first + place, owner, id, amount, closedDay: seen.closedDay, ...why });
		}
		if (!accountId) return;
		const known = owners.get(accountId);
		if (known) known.add(owner);
		else owners.set(accountId, new Set([owner]));
		if (seen.status === "open") open.push({ account: accountId, owner, id, name: name || "No name", amount, level: seen.attention.level });
	});
	return { owners, open, lost };
}

/** The open deals on a day of each account, unsorted, and which accounts have a deal of some people, be it closed. */
export function accountDeals(organisation: OrganisationState, day: Day, isOurs: (owner: number) => boolean) {
	const blocks = blocksOn(organisation, day);
	const open = new Map<string, OpenDeal[]>();
	for (const block of blocks)
		for (const deal of block.open) {
			if (!isOurs(deal.owner)) continue;
			const list = open.get(deal.account);
			if (list) list.push(deal);
			else open.set(deal.account, [deal]);
		}
	const own = new Set<string>();
	for (const { owners } of blocks) for (const [account, all] of owners) if (!own.has(account) && some(all, isOurs)) own.add(account);
	return { open, own };
}

function some(owners: ReadonlySet<number>, isOurs: (owner: number) => boolean): boolean {
	for (const owner of owners) if (isOurs(owner)) return true;
	return false;
}

/** The deals lost by a day. */
export const lostLines = (organisation: OrganisationState, day: Day): LostLine[] => joined(blocksOn(organisation, day).map(({ lost }) => lost));
