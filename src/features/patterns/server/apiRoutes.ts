import { z } from "zod";
import { CATEGORIES } from "@/core/history/columns";
import { LEVELS } from "@/core/qualification/answer";
import { quarterOf } from "@/core/time/period";
import { dayAsked, periodAsked } from "@/platform/days";
import { apiRoute, isoDay, whose } from "@/platform/http/apiRoute";
import { scopeOf } from "@/platform/reach";
import { MOST_LEAD, MOST_QUARTERS, USUAL_LOOK } from "./looking";
import { outlookJson } from "./outlookJson";
import { readOutlook } from "./readOutlook";
import { readAccuracy, readForetelling, readStageTimes, readTaskHelp, STAGE_GROUPS } from "./readPatterns";

const number = z.number();
const rate = number.nullable();
const share = z.object({ k: z.number().int(), n: z.number().int(), share: rate, low: rate, high: rate });
const shareOfDeals = share.extend({ deals: z.number().int() });
const fates = z.object({ out: z.number().int(), won: z.number().int(), gone: z.number().int(), lit: z.number().int() });
const amountShare = z
	.object({ k: z.number().int().nullable(), n: z.number().int().nullable(), share: rate })
	.meta({ description: "in base minor units; all null of fewer than ten deals" });
const look = {
	quarters: z.coerce.number().int().min(1).max(MOST_QUARTERS).default(USUAL_LOOK.quarters),
	lead: z.coerce.number().int().min(0).max(MOST_LEAD).default(USUAL_LOOK.lead),
	as_of: isoDay.optional(),
};
const quarter = z.object({ from: z.iso.date(), to: z.iso.date(), day: z.iso.date() });

export const patternRoutes = [
	apiRoute({
		by: readStageTimes,
		id: "timeInStage",
		method: "get",
		path: "/patterns/time-in-stage",
		summary: "How long deals stay in each stage: mean of the finished visits, Kaplan–Meier median of all",
		status: 200,
		answer: z.object({
			items: z.array(
				z.object({
					stage: z.string(),
					group: z.string(),
					finished: z.number().int(),
					unfinished: z.number().int(),
					mean: rate,
					restrictedMean: rate,
					median: rate,
					handedOn: z.number().int().optional(),
				}),
			),
		}),
		query: z.object({ by: z.enum(STAGE_GROUPS).default("rep"), as_of: isoDay.optional() }),
		run: (context, { query }) => ({
			items: readStageTimes(context, query.by, dayAsked(context, "as_of", query.as_of)).map(
				({ stage, group, finished, unfinished, mean, restrictedMean, median, handedOn }) => ({
					stage,
					group,
					finished,
					unfinished,
					mean,
					restrictedMean,
					median,
					...(query.by === "rep" ? { handedOn } : {}),
				}),
			),
		}),
	}),
	apiRoute({
		by: readAccuracy,
		id: "commitAccuracy",
		method: "get",
		path: "/patterns/commit",
		summary: "How many of the deals in a category were won in time, by count and by amount",
		status: 200,
		answer: z.object({
			quarters: z.array(quarter),
			count: share,
			amount: amountShare,
			people: z.array(z.object({ id: z.string(), count: share, amount: amountShare })),
		}),
		query: z.object({ ...look, category: z.enum(CATEGORIES).default("commit"), ...whose }),
		run: (context, { query: { quarters, lead, as_of, category, team, owner } }) => {
			const view = readAccuracy(context, scopeOf(context, team, owner), category, { quarters, lead }, dayAsked(context, "as_of", as_of));
			return { quarters: view.quarters, count: view.count, amount: view.amount, people: view.people.map(({ id, count, amount }) => ({ id, count, amount })) };
		},
	}),
	apiRoute({
		by: readForetelling,
		id: "flagRecords",
		method: "get",
		path: "/patterns/flags",
		summary: "The track record of each flag: the share not won in time with it and without, and how many times larger the first is",
		status: 200,
		answer: z.object({
			items: z.array(
				z.object({
					code: z.string(),
					with: shareOfDeals,
					without: shareOfDeals,
					lift: rate,
					shrunkLift: rate,
					p: rate,
					apart: z.boolean(),
					nothing: z.boolean(),
					laterWon: z.number().int().nullable(),
				}),
			),
		}),
		query: z.object(look),
		run: async (context, { query: { quarters, lead, as_of } }) => ({
			items: (await readForetelling(context, { quarters, lead }, dayAsked(context, "as_of", as_of))).flags.map(({ name: _, ...one }) => one),
		}),
	}),
	apiRoute({
		by: readForetelling,
		id: "answerRecords",
		method: "get",
		path: "/patterns/answers",
		summary: "The share not won in time by each question’s answers",
		status: 200,
		answer: z.object({ items: z.array(shareOfDeals.extend({ question: z.string(), level: z.enum(LEVELS) })) }),
		query: z.object(look),
		run: async (context, { query: { quarters, lead, as_of } }) => ({
			items: [...(await readForetelling(context, { quarters, lead }, dayAsked(context, "as_of", as_of))).answers],
		}),
	}),
	apiRoute({
		by: readTaskHelp,
		id: "taskHelp",
		method: "get",
		path: "/patterns/tasks",
		summary: "Whether flags are out more often where a task names them, by flag and by how long they were lit",
		status: 200,
		answer: z.object({
			items: z.array(
				z.object({
					code: z.string(),
					classes: z.array(z.object({ weeks: z.number().int(), with: fates, without: fates })),
					difference: rate,
					low: rate,
					high: rate,
					helps: z.boolean(),
				}),
			),
		}),
		query: z.object({ as_of: isoDay.optional(), ...whose }),
		run: async (context, { query: { as_of, team, owner } }) => {
			const found = await readTaskHelp(context, scopeOf(context, team, owner), dayAsked(context, "as_of", as_of));
			return {
				items: found.map(({ code, classes, difference, low, high, helps }) => ({
					code,
					classes: classes.map(({ age, ...arms }) => ({ weeks: age, ...arms })),
					difference,
					low,
					high,
					helps,
				})),
			};
		},
	}),
	apiRoute({
		by: readOutlook,
		id: "outlook",
		method: "get",
		path: "/outlook",
		summary: "Where a period will end, from what came of comparable deals, with its track record beside it",
		status: 200,
		answer: z.object({ available: z.boolean(), reason: z.string().nullable() }).loose(),
		query: z.object({ from: isoDay.optional(), to: isoDay.optional(), as_of: isoDay.optional(), ...whose }),
		run: async (context, { query: { from, to, as_of, team, owner } }) => {
			const day = dayAsked(context, "as_of", as_of);
			const period = from || to ? periodAsked(from, to) : quarterOf(day, context.organisation.company.rules.fiscal);
			const answer = await readOutlook(context, scopeOf(context, team, owner), period, day);
			if (!answer.available) return answer;
			return outlookJson(answer);
		},
	}),
];
