import { z } from "zod";
import { dealSchema } from "@/features/deals";
import { dayAsked } from "@/platform/days";
import { apiRoute, isoDay, list, paging, whose } from "@/platform/http/apiRoute";
import { accountSchema } from "./accountJson";
import { logSchema, readAccountLog } from "./accountLog";
import { activitySchema, readActivity } from "./activity";
import { editRoutes } from "./editRoutes";
import { listAccounts } from "./listAccounts";
import { readAccountOfApi } from "./readAccount";
import { listTurns, turnSchema } from "./turns";

const whole = z.number().int();
const accountDetailSchema = accountSchema
	.extend({
		years: z.array(z.object({ year: z.string(), amount: whole, products: z.array(z.object({ product: z.string(), amount: whole })) })),
		neverBought: z.array(z.string()).meta({ description: "families that a third of the accounts like it bought in two years, and it never did" }),
		deals: z.array(dealSchema),
		contacts: z.array(
			z.object({
				id: z.string(),
				name: z.string(),
				title: z.string().nullable(),
				email: z.string().nullable(),
				buyingRole: z.string().nullable(),
				reportsToId: z.string().nullable(),
				versionId: whole,
				lastContact: z.iso.date().nullable(),
			}),
		),
		ties: z.array(
			z.object({
				contactId: z.string(),
				personId: z.string(),
				tie: z.number(),
				word: z.enum(["close", "known", "faint"]),
				conversations: whole,
				last: z.iso.date(),
				answers: z.object({ k: whole, n: whole }).nullable().meta({ description: "how many of ours they answer; null under 5 of which that can be said" }),
			}),
		),
		waysIn: z.array(z.object({ contactId: z.string(), personId: z.string() })),
	})
	.meta({ id: "AccountDetail" });

export const accountRoutes = [
	apiRoute({
		by: listAccounts,
		id: "listAccounts",
		method: "get",
		path: "/accounts",
		summary: "Accounts as of a day, with last contact, purchases and what is open, by id",
		status: 200,
		answer: list(accountSchema),
		query: z.object({
			as_of: isoDay.optional(),
			...whose,
			band: z.string().optional().meta({ description: "days since the last contact, such as `up_to_14`, `15_to_42`, `over_91` or `never`" }),
			risk: z.enum(["true", "false"]).optional(),
			...paging,
		}),
		run: (context, { query }) => listAccounts(context, { ...query, risk: query.risk === undefined ? undefined : query.risk === "true" }, query),
	}),
	apiRoute({
		by: readAccountOfApi,
		id: "readAccount",
		method: "get",
		path: "/accounts/{id}",
		summary: "One account as of a day: what it bought and never did, its deals and people, and who knows whom",
		status: 200,
		answer: accountDetailSchema,
		query: z.object({ as_of: isoDay.optional() }),
		run: (context, { query, params }) => readAccountOfApi(context, params.id ?? "", query.as_of),
	}),
	apiRoute({
		by: readAccountLog,
		id: "listAccountActivities",
		method: "get",
		path: "/accounts/{id}/activities",
		summary: "What was said, done and planned at an account, the newest first",
		status: 200,
		answer: list(logSchema),
		query: z.object({
			as_of: isoDay.optional(),
			kind: z.string().optional(),
			person: z.string().optional().meta({ description: "of ours or of theirs, by id" }),
			deal: z.string().optional().meta({ description: "a deal’s id, or `none`" }),
			q: z.string().max(200).optional().meta({ description: "words in the subject or the text" }),
			...paging,
		}),
		run: (context, { query, params }) => readAccountLog(context, params.id ?? "", dayAsked(context, "as_of", query.as_of), query, query),
	}),
	apiRoute({
		by: listTurns,
		id: "listTurns",
		method: "get",
		path: "/turns",
		summary: "Whose turn it is, on open deals and at accounts without one, in the order of work",
		status: 200,
		answer: list(turnSchema),
		query: z.object({ as_of: isoDay.optional(), ...whose, ...paging }),
		run: (context, { query }) => listTurns(context, query, query),
	}),
	apiRoute({
		by: readActivity,
		id: "readActivity",
		method: "get",
		path: "/activity",
		summary: "Contacts by person over some days, against what is usual for each",
		status: 200,
		answer: activitySchema,
		query: z.object({ from: isoDay, to: isoDay, as_of: isoDay.optional(), ...whose }),
		run: (context, { query }) => readActivity(context, query),
	}),
	...editRoutes,
];
