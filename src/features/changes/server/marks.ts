import { and, eq } from "drizzle-orm";
import { z } from "zod";
import { fits, sealAt } from "@/core/bridge/seal";
import { asOf, blockOf, endRow, firstRow, newestVersion } from "@/core/history/columns";
import { formatDay } from "@/core/time/day";
import { connection } from "@/data/db";
import { currentOrganisation } from "@/data/organisation/follow";
import type { Mark, OrganisationState } from "@/data/organisation/state";
import { marks } from "@/data/schema";
import { clock } from "@/platform/clock";
import { command, query } from "@/platform/command";
import type { Context } from "@/platform/context";
import { Fault, notFound } from "@/platform/fault";
import { idSchema } from "@/platform/input";
import { reaches, reachOf } from "@/platform/reach";

export const markSchema = z
	.object({
		id: z.string(),
		name: z.string(),
		at: z.iso.datetime(),
		day: z.iso.date(),
		byId: z.string().nullable(),
		fits: z.boolean().nullable().meta({ description: "whether history is still as it was sealed; null without a seal" }),
	})
	.meta({ id: "Mark" });
export type MarkJson = z.infer<typeof markSchema>;

/** All marks, the newest first. */
export const readMarks = query("changes.marks", "readChanges", (context: Context): MarkJson[] => {
	return context.organisation.marks.map((mark) => markJson(context.organisation, mark)).reverse();
});

function markJson(organisation: OrganisationState, mark: Mark): MarkJson {
	const at = new Date(mark.at).toISOString();
	return {
		id: `${at} ${mark.name}`,
		name: mark.name,
		at,
		day: formatDay(mark.day),
		byId: mark.byId,
		fits: mark.seal ? fits(mark.seal, sealAt(organisation.company, mark.at)) : null,
	};
}

/** Keeps this moment under a name, sealed: what is open now, so that a later correction of history shows. */
export const keepMark = command({
	name: "changes.keepMark",
	right: "keepMarks",
	input: z.object({ name: z.string().trim().min(1, "Give the mark a name.").max(100, "A mark’s name has at most 100 letters.") }).meta({ id: "NewMark" }),
	alone: true,
	async run({ context: { actor }, input: { name }, tx }) {
		// What is sealed is what stands in the database now that nobody is in the midst of a write.
		const organisation = await currentOrganisation(connection().db);
		const now = clock(organisation);
		const at = now.instant;
		const newest = newestVersion(organisation.company.history);
		const seal = sealAt(organisation.company, at);
		const made = await tx
			.insert(marks)
			.values({ at: new Date(at), name, byId: actor.person.id, seal, newest })
			.onConflictDoNothing()
			.returning();
		if (!made.length) throw new Fault(409, "Already saved", `A mark ${name} of this exact moment already exists.`);
		return {
			result: markJson(organisation, { at, day: now.day, name, byId: actor.person.id, seal: { ...seal, newest } }),
			touched: "marks",
			audit: { action: "mark saved", detail: { name, at: new Date(at).toISOString() } },
		};
	},
});

/** Takes a mark away that the person has kept. The past it named stays. */
export const removeMark = command({
	name: "changes.removeMark",
	right: "keepMarks",
	input: z.object({ id: idSchema }),
	async run({ context, input: { id }, tx }) {
		const [at = "", ...rest] = id.split(" ");
		const name = rest.join(" ");
		const when = new Date(at);
		if (Number.isNaN(when.getTime())) throw notFound("mark", id);
		const gone = await tx
			.delete(marks)
			.where(and(eq(marks.at, when), eq(marks.name, name), eq(marks.byId, context.actor.person.id)))
			.returning();
		if (!gone.length) throw notFound("mark of yours", id);
		return { result: {}, touched: "marks", audit: { action: "mark deleted", detail: { name } } };
	},
});

export interface BrokenSeal {
	readonly mark: string;
	/** deals of the whole organisation that were open then, by what was known then and now; null for who doesn't reach it all */
	readonly open: { readonly before: number; readonly now: number } | null;
	/** deals whose history up to the mark was written after it */
	readonly deals: readonly { readonly id: string; readonly name: string }[];
}

/**
 * The seals of a day that no longer fit, with the deals whose history was corrected since, as far as the person reaches
 * them. How many deals were open is of the whole organisation, and said to those who reach it.
 */
export function brokenSeals(context: Context, day: number): BrokenSeal[] {
	const { organisation, now: today } = context;
	const { history } = organisation.company;
	const reach = reachOf(organisation, context.actor);
	const isTheirs = (deal: number) => {
		const row = asOf(history, deal, today.day);
		return row >= 0 && reaches(reach, blockOf(history, deal).owner[row] as number);
	};
	return organisation.marks.flatMap((mark) => {
		if (mark.day !== day || !mark.seal) return [];
		const now = sealAt(organisation.company, mark.at);
		if (fits(mark.seal, now)) return [];
		const { newest } = mark.seal;
		const deals = organisation.deals.flatMap((deal, i) => {
			if (!isTheirs(i)) return [];
			const block = blockOf(history, i);
			for (let row = firstRow(block, i); row < endRow(block, i); row++) {
				if ((block.at[row] as number) <= mark.at && (block.id[row] as number) > newest) return [{ id: deal.id, name: deal.name || "No name" }];
			}
			return [];
		});
		const open = reach === null ? { before: mark.seal.count, now: now.count } : null;
		return [{ mark: mark.name, open, deals }];
	});
}
