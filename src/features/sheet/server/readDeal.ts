import { z } from "zod";
import { stateOf } from "@/core/deal/fields";
import { litSince } from "@/core/flags/since";
import { formatDay } from "@/core/time/day";
import { recordsAsOf } from "@/data/queries/recordsAsOf";
import { dealJson, dealSchema, FIELD_ANSWERS, flagSchema, levelSchema } from "@/features/deals";
import { taskJson, taskSchema } from "@/features/tasks";
import { query } from "@/platform/command";
import type { Context } from "@/platform/context";
import { dayAsked } from "@/platform/days";
import { recordsOf } from "@/platform/dealRecords";
import { reachDealOn } from "@/platform/reachDeal";

const instant = z.iso.datetime();

export const dealDetailSchema = dealSchema
	.extend({
		flags: z.array(flagSchema.extend({ since: z.iso.date().meta({ description: "the first day-end since which it has fired without a break" }) })),
		versions: z.array(
			z.object({
				id: z.number().int(),
				at: instant,
				...FIELD_ANSWERS,
				byId: z.string().nullable(),
				reason: z.string().nullable().meta({ description: "why it was changed" }),
			}),
		),
		activities: z.array(
			z.object({
				id: z.string(),
				kind: z.string(),
				direction: z.string(),
				state: z.string(),
				at: instant,
				byId: z.string().nullable(),
				contactIds: z.array(z.string()),
				subject: z.string().nullable(),
				body: z.string().nullable(),
			}),
		),
		answers: z.array(z.object({ questionId: z.string(), level: levelSchema, note: z.string().nullable(), at: instant, byId: z.string().nullable() })),
		tasks: z.array(taskSchema),
	})
	.meta({ id: "DealDetail" });
export type DealDetail = z.infer<typeof dealDetailSchema>;

/** One deal as seen on a day, with its versions, activities, answers and tasks up to then. Throws 404. */
export const readDeal = query("sheet.detail", "readDeals", async (context: Context, id: string, asOfText: string | undefined): Promise<DealDetail> => {
	const { organisation } = context;
	const day = dayAsked(context, "as_of", asOfText);
	const { seen } = reachDealOn(context, id, day);
	const until = organisation.company.rules.zone.instantAt(day + 1, 0);
	const records = recordsAsOf(await recordsOf(organisation, seen.deal), until, formatDay(day));
	const json = dealJson(organisation, seen, day);
	const codes = seen.flags.map((flag) => flag.code);
	const since = litSince(organisation.company, seen.deal, day, codes);
	return {
		...json,
		flags: json.flags.map((flag) => ({ ...flag, since: formatDay(since.get(flag.code) ?? day) })),
		versions: [...records.versions].reverse().map((v) => ({
			id: v.id,
			at: v.validFrom.toISOString(),
			...stateOf(v),
			byId: v.byId,
			reason: v.reason,
		})),
		activities: records.activities.map((a) => ({
			id: a.id,
			kind: a.kind,
			direction: a.direction,
			state: a.state,
			at: a.at.toISOString(),
			byId: a.byId,
			contactIds: a.contactIds,
			subject: a.subject,
			body: a.body,
		})),
		answers: records.answers.map((a) => ({
			questionId: a.questionId,
			level: levelSchema.parse(a.level),
			note: a.note,
			at: a.at.toISOString(),
			byId: a.byId,
		})),
		tasks: records.tasks.map((t) => taskJson(context, t, day)),
	};
});
