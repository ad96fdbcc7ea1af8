import type { Tx } from "@/data/db";
import { personName } from "@/platform/names";
import type { Found, Happening, Scan } from "../happenings/happening";
import { newsMail, severalMail } from "./letters";
import { post } from "./post";

/** A mail that is to go out at once, with others like it. */
export interface ToSend {
	readonly news: number | string;
	readonly kind: Happening;
	readonly found: Found;
	readonly personId: string;
	readonly address: string;
}

/** Posts what is to be sent at once: what is of one kind, by one person, for one person, goes as one mail. Answers how many there were. */
export async function sendTogether(tx: Tx, { context }: Scan, all: readonly ToSend[]): Promise<number> {
	const groups = new Map<string, ToSend[]>();
	for (const one of all) {
		const key = `${one.kind.kind} ${one.personId} ${one.found.byId ?? ""}`;
		groups.set(key, [...(groups.get(key) ?? []), one]);
	}
	for (const group of groups.values()) {
		const [first] = group;
		if (!first) continue;
		const { kind, personId, address, found } = first;
		const letter = { key: `news ${first.news}`, personId, address, createdAt: new Date(context.now.instant) };
		if (group.length === 1) {
			const { path, parts = [] } = found;
			const words = kind.say(found.facts);
			await post(tx, { ...letter, dealId: found.dealId ?? null, ...newsMail({ words, path, kind: kind.label, parts }) });
			continue;
		}
		const several = group.map((one) => one.found);
		const by = found.byId ? personName(context.organisation, found.byId) : null;
		const deals = new Set(several.map(({ dealId }) => dealId ?? null));
		// An answer stands on its deal: a mail about several has none that it could stand on, and says so.
		const [dealId = null] = deals.size === 1 ? deals : [];
		const subject = kind.many?.(several, by) ?? `${several.length} times: ${kind.label}`;
		await post(tx, {
			...letter,
			dealId,
			...severalMail(
				subject,
				several.map(({ facts, path }) => ({ words: kind.say(facts), path })),
				kind.label,
				dealId === null,
			),
		});
	}
	return groups.size;
}
