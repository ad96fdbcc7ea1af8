import { derive } from "@/core/derive";
import { accountsKey } from "@/data/organisation/former";
import type { Context } from "@/platform/context";
import { notFound } from "@/platform/fault";
import type { Made, PatternKind } from "../book";
import { dayOf, finding, type Given, scopeOf } from "../given";
import { PATTERN_KINDS } from "../kinds";
import { USUAL_LOOK } from "../looking";

/** The view of a name, or null where there is none. */
export const patternNamed = (key: string | undefined): PatternKind | null => PATTERN_KINDS.find((one) => one.key === key) ?? null;

const KEPT = 120;

/** A view with what its figures open, kept with the company: whoever looks at the same shares it. */
export function madeOf(context: Context, given: Given): Promise<Made> {
	const kind = patternNamed(given.show);
	if (!kind) throw notFound("view", given.show ?? "");
	const { scope, day, quarters = USUAL_LOOK.quarters, lead = USUAL_LOOK.lead, by } = given;
	const key = JSON.stringify([kind.key, scope, day, quarters, lead, by, kind.ofReader ? context.actor.person.id : null, accountsKey(context.organisation)]);
	return derive(
		context.organisation.company,
		"patterns",
		key,
		async () => kind.read(context, { scope: scopeOf(context, given), day: dayOf(day), look: { quarters, lead }, by: by ?? undefined }),
		KEPT,
	);
}

/** What one view of the past says. */
export const view = finding({ steps: () => 1, compute: async (context, given) => (await madeOf(context, given)).view });
