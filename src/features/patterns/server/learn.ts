import { desc, eq, isNotNull, sql } from "drizzle-orm";
import { formatDay } from "@/core/time/day";
import { monthOf, quarterOf } from "@/core/time/period";
import { connection } from "@/data/db";
import { currentOrganisation } from "@/data/organisation/follow";
import { findings, imports } from "@/data/schema";
import { clock } from "@/platform/clock";
import { type Context, contextFor } from "@/platform/context";
import { may } from "@/platform/rights";
import { resolveViewpoint } from "@/platform/viewpoint";
import { askThread, isApart, pruneFindings } from "./find";
import type { FindingKind, Given } from "./findings";
import { PATTERN_KINDS } from "./kinds";
import { USUAL_LOOK } from "./looking";
import { idsOf } from "./scopes";

const LEARNED = "learned";

/** What somebody sees first of the past, as it is asked for without a word said: the outlooks, each view, what stands beside flags. */
export function usualQuestions(context: Context): readonly { readonly what: FindingKind; readonly given: Given }[] {
	const { organisation, now } = context;
	const { whose } = resolveViewpoint(context, {});
	const day = formatDay(now.day);
	const scope = idsOf(organisation, whose.scope);
	const span = ({ start, end }: { start: number; end: number }) => ({ from: formatDay(start), to: formatDay(end) });
	const quarter = span(quarterOf(now.day, organisation.company.rules.fiscal));
	return [
		{ what: "foretelling", given: { day, scope: null, ...USUAL_LOOK } },
		{ what: "outlook", given: { day, scope, ...quarter } },
		{ what: "moved", given: { day, scope, ...quarter, against: formatDay(resolveViewpoint(context, {}).against.day) } },
		{ what: "outlook", given: { day, scope, ...span(monthOf(now.day, organisation.company.rules.fiscal)) } },
		...PATTERN_KINDS.map(({ key }) => ({ what: "view" as const, given: { show: key, scope, day, ...USUAL_LOOK, by: null } })),
	];
}

/**
 * Has the past worked out by the thread once a day and after each import, for everybody who leads or looks on, so that it is
 * there when they come. Small companies' is worked out where it is asked for.
 */
export async function learn(): Promise<string[]> {
	const { db } = connection();
	const organisation = await currentOrganisation(db);
	const today = formatDay(clock(organisation).day);
	const [known] = await db.select({ day: findings.day, madeAt: findings.madeAt }).from(findings).where(eq(findings.key, LEARNED));
	const [last] = await db.select({ ended: imports.endedAt }).from(imports).where(isNotNull(imports.endedAt)).orderBy(desc(imports.endedAt)).limit(1);
	const since = last?.ended?.getTime() ?? 0;
	if (known?.day === today && (known.madeAt?.getTime() ?? 0) >= since) return [];
	const seen = new Set<string>();
	let found = 0;
	for (const { id } of organisation.people) {
		const context = await contextFor(id);
		if (!context || !isApart(context)) break;
		// A rep's own past is short, and is worked out when it is looked at.
		if (context.actor.person.role === "rep" || !may(context.actor, "readPatterns")) continue;
		for (const { what, given } of usualQuestions(context)) {
			if (await askThread(context, what, given, seen)) found++;
		}
	}
	const entry = { day: today, madeAt: sql`now()`, done: 1, steps: 1 };
	await db
		.insert(findings)
		.values({ key: LEARNED, ...entry })
		.onConflictDoUpdate({ target: findings.key, set: entry });
	await pruneFindings(clock(organisation).day);
	return found ? [`${found} findings of the past`] : [];
}
