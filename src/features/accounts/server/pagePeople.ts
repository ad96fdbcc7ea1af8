import { type Tie, tieWord } from "@/core/accounts/ties";
import { worksOn } from "@/core/people/person";
import { type Day, formatDay } from "@/core/time/day";
import type { Context } from "@/platform/context";
import { ownerName } from "@/platform/names";
import type { PagePerson } from "./accountPageView";
import type { AccountStory } from "./readAccount";

/** Whether somebody who works here knows who signs; null where nobody is said to sign. */
export function signatoryKnown({ contacts, ways }: AccountStory): boolean | null {
	const signs = new Set(contacts.flatMap((one) => (one.buyingRole === "decision_maker" ? [one.id] : [])));
	return signs.size ? ways.some(({ contact }) => signs.has(contact)) : null;
}

/** People in the order of their reporting lines, each under whom they report to. */
export function peopleOf({ organisation }: Context, { contacts, ties }: AccountStory, day: Day): PagePerson[] {
	const names = new Map(contacts.map(({ id, name }) => [id, name]));
	const found: PagePerson[] = [];
	const placed = new Set<string>();
	const works = ({ person }: Tie) => organisation.people[person] && worksOn(organisation.people[person], day);
	const place = (one: AccountStory["contacts"][number], depth: number) => {
		if (placed.has(one.id)) return;
		placed.add(one.id);
		const own = ties.filter((tie) => tie.contact === one.id && works(tie));
		const [best] = own;
		const answers = own.find((tie) => tie.answers)?.answers ?? null;
		found.push({
			id: one.id,
			name: one.name || "No name",
			title: one.title,
			role: one.buyingRole,
			email: one.email,
			reportsToId: one.reportsToId,
			versionId: one.versionId,
			depth,
			reportsTo: names.get(one.reportsToId ?? "") ?? null,
			known: best ? { by: ownerName(organisation, best.person), tie: best.tie, word: tieWord(best.tie) ?? "", others: own.length - 1 } : null,
			last: one.last ? formatDay(one.last.day) : null,
			answers: answers && { ...answers },
		});
		for (const other of contacts) if (other.reportsToId === one.id) place(other, depth + 1);
	};
	for (const one of contacts) if (!names.has(one.reportsToId ?? "")) place(one, 0);
	// A circle of reporting lines, which files may hold, begins somewhere.
	for (const one of contacts) place(one, 0);
	return found;
}
