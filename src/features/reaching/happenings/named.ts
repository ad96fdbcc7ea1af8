import { dealName, personName } from "@/platform/names";
import { dealPath, happening } from "./happening";

/** Somebody is called on in a note. */
export const named = happening({
	kind: "named",
	label: "someone mentions me in a note",
	usual: { onScreen: true, mail: "now" },
	find: ({ context: { organisation }, notes }) =>
		notes.flatMap(({ id, dealId, byId, body, mentions }) =>
			mentions
				.filter((personId) => personId !== byId)
				.map((personId) => ({
					personId,
					key: id,
					dealId,
					facts: {
						by: personName(organisation, byId),
						deal: dealName(organisation, organisation.dealIndex.get(dealId) ?? -1),
						body: body.slice(0, 300),
					},
					path: dealPath(dealId),
				})),
		),
	say: ({ by, deal, body }) => `${by ?? "Somebody"} on ${deal}: ${body}`,
});
