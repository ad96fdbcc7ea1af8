import { and, gt, inArray, isNotNull } from "drizzle-orm";
import { connection } from "@/data/db";
import { rests } from "@/data/schema";
import { dealName, personName } from "@/platform/names";
import { dayWords, dealPath, happening } from "./happening";

const BACK = 24 * 3_600_000;

/** A rest that somebody has asked for was given or refused. */
export const restAnswered = happening({
	kind: "rest-answered",
	label: "a rest I asked for is given or refused",
	usual: { onScreen: true, mail: "digest" },
	async find({ context: { organisation, now } }) {
		const rows = await connection()
			.db.select()
			.from(rests)
			.where(and(inArray(rests.state, ["given", "refused"]), isNotNull(rests.askedById), gt(rests.at, new Date(now.instant - BACK))));
		return rows.flatMap(({ id, askedById, byId, dealId, state, untilDay }) => {
			const name = dealName(organisation, organisation.dealIndex.get(dealId) ?? -1);
			return askedById
				? [
						{
							personId: askedById,
							key: `${id} ${state}`,
							dealId,
							facts: { by: personName(organisation, byId), deal: name, until: state === "given" ? untilDay : null },
							path: dealPath(dealId),
						},
					]
				: [];
		});
	},
	say: ({ by, deal, until }) => `${by ?? "Somebody"} ${until ? `lets ${deal} rest until ${dayWords(until)}` : `doesn’t let ${deal} rest`}`,
});
