import { eq } from "drizzle-orm";
import { connection } from "@/data/db";
import { rests } from "@/data/schema";
import { dealName, personName } from "@/platform/names";
import { reaches, reachOf } from "@/platform/reach";
import { dayWords, dealPath, type Found, happening } from "./happening";

/** Somebody asks that a deal may rest: told to who leads its owner's team, or to whoever stands above where nobody does. */
export const restAsked = happening({
	kind: "rest-asked",
	label: "someone asks for a rest for a deal of my team",
	usual: { onScreen: true, mail: "digest" },
	async find({ context: { organisation }, is }) {
		const rows = await connection().db.select().from(rests).where(eq(rests.state, "asked"));
		const found: Found<{ by: string | null; deal: string; until: string; reason: string }>[] = [];
		for (const { id, dealId, askedById, untilDay, reason } of rows) {
			const deal = organisation.dealIndex.get(dealId) ?? -1;
			const owner = is.deals[deal]?.owner;
			if (owner === undefined) continue;
			const managers = organisation.people.filter(
				(person, index) => person.role === "manager" && person.id !== askedById && reaches(reachOf(organisation, { person, index }), owner),
			);
			const nearest = managers.filter(({ team }) => team === organisation.people[owner]?.team);
			for (const { id: personId } of nearest.length ? nearest : managers)
				found.push({
					personId,
					key: id,
					dealId,
					facts: { by: personName(organisation, askedById), deal: dealName(organisation, deal), until: untilDay, reason },
					path: dealPath(dealId),
				});
		}
		return found;
	},
	say: ({ by, deal, until, reason }) => `${by ?? "Somebody"} asks that ${deal} may rest until ${dayWords(until)}: ${reason}`,
});
