import { derive } from "@/core/derive";
import { CATEGORIES } from "@/core/history/columns";
import type { StageKind } from "@/core/history/stage";
import type { OrganisationState } from "@/data/organisation/state";
import type { Context } from "@/platform/context";
import { ownersFor } from "@/platform/owners";
import { may } from "@/platform/rights";

/** What an edit of a deal can choose from. */
export interface EditChoices {
	readonly stages: readonly { readonly name: string; readonly kind: StageKind }[];
	readonly categories: readonly string[];
	/** people who may own a deal; empty for those who may not give one away */
	readonly owners: readonly { readonly id: string; readonly name: string }[];
	readonly reasons: readonly string[];
	/** competitors that were named before, the most frequent first */
	readonly competitors: readonly string[];
	readonly kinds: readonly string[];
	readonly mayEdit: boolean;
}

/** What an edit can be chosen from: stages, categories, owners within reach, reasons and competitors. */
export function editChoices(context: Context): EditChoices {
	const { organisation, actor } = context;
	return {
		stages: organisation.company.rules.stages.map(({ name, kind }) => ({ name, kind })),
		categories: CATEGORIES,
		owners: actor.person.role === "manager" ? ownersFor(context) : [],
		reasons: organisation.outcomeReasons,
		competitors: derive(organisation, "competitors", "", () => competitorsOf(organisation)),
		kinds: organisation.activityKinds,
		mayEdit: may(actor, "editDeals"),
	};
}

function competitorsOf({ deals }: OrganisationState): string[] {
	const counts = new Map<string, number>();
	for (const { competitor } of deals) if (competitor) counts.set(competitor, (counts.get(competitor) ?? 0) + 1);
	return [...counts].sort((a, b) => b[1] - a[1] || (a[0] < b[0] ? -1 : 1)).map(([name]) => name);
}
