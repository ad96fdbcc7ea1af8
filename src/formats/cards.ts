import ICAL from "ical.js";
import { storable } from "./mail/readMail";

/** Somebody as a card (vCard, RFC 6350) tells of them. */
export interface Card {
	readonly name: string;
	readonly title: string | null;
	readonly email: string | null;
}

const MOST_CARDS = 5000;
const text = (card: ICAL.Component, name: string) => {
	const value = card.getFirstPropertyValue(name);
	return storable(Array.isArray(value) ? value.flat().filter(Boolean).join(" ") : String(value ?? ""))
		.replace(/\s+/g, " ")
		.trim();
};

/** Reads cards of version 3 or 4; one without a name and an address is told and left out. */
export function readCards(file: string): { readonly cards: readonly Card[]; readonly problems: readonly string[] } {
	const problems: string[] = [];
	const found: unknown[] = [];
	for (const [one] of file.replace(/\r\n|\r|\n/g, "\r\n").matchAll(/BEGIN:VCARD[\s\S]*?END:VCARD/gi)) {
		try {
			found.push(ICAL.parse(`${one}\r\n`));
		} catch (error) {
			problems.push(`A card can’t be read (RFC 6350): ${String((error as Error).message).slice(0, 200)}.`);
		}
		if (found.length >= MOST_CARDS) {
			problems.push(`Only the first ${MOST_CARDS} cards are read.`);
			break;
		}
	}
	const cards = found.flatMap((parsed): Card[] => {
		const card = new ICAL.Component(parsed as never);
		const email = text(card, "email").toLowerCase().slice(0, 300) || null;
		const given = card.getFirstPropertyValue("n");
		const name = text(card, "fn") || (Array.isArray(given) ? [given[1], given[0]].flat().filter(Boolean).join(" ") : "");
		if (name || email) return [{ name: (name || (email ?? "")).slice(0, 200), title: text(card, "title").slice(0, 200) || null, email }];
		problems.push("A card without a name is left out.");
		return [];
	});
	if (!cards.length && !problems.length) problems.push("This file has no cards.");
	return { cards, problems };
}

/** Somebody as a card of version 4.0, for other programs’ address books. */
export interface CardOut extends Card {
	readonly uid: string;
	readonly company: string | null;
	readonly role: string | null;
}

/** Cards of RFC 6350, one after another. */
export const writeCards = (people: readonly CardOut[]): string =>
	people
		.map(({ uid, name, title, email, company, role }) => {
			const card = new ICAL.Component("vcard");
			card.updatePropertyWithValue("version", "4.0");
			card.updatePropertyWithValue("uid", uid);
			card.updatePropertyWithValue("fn", name || "No name");
			const parts = name.trim().split(/\s+/);
			card.updatePropertyWithValue("n", [parts.length > 1 ? (parts.at(-1) ?? "") : name, parts.slice(0, -1).join(" "), "", "", ""] as never);
			if (title) card.updatePropertyWithValue("title", title);
			if (role) card.updatePropertyWithValue("role", role);
			if (email) card.updatePropertyWithValue("email", email);
			if (company) card.updatePropertyWithValue("org", [company] as never);
			return `${card.toString()}\r\n`;
		})
		.join("");
