import { z } from "zod";
import { worksOn } from "@/core/people/person";
import { surveyOn } from "@/core/survey";
import { defaultDue } from "@/core/tasks/task";
import { formatDay, isoOrNull } from "@/core/time/day";
import { quarterOf } from "@/core/time/period";
import { connection } from "@/data/db";
import { kits } from "@/data/schema";
import { lookup } from "@/platform/command";
import { notFound } from "@/platform/fault";
import { idSchema } from "@/platform/input";
import { accountName, dealName, ownerName } from "@/platform/names";
import { reaches, reachOf } from "@/platform/reach";
import { assignablePeople, assignableTeams } from "./assignees";
import { fieldsOf } from "./giveTasks";

/** so far ahead a due day is counted in working days */
const AHEAD = 130;

/** What a dialog needs to give tasks for some deals: of each deal its fields and remedies; the people, teams, kits and days to choose from. */
export const draftTasks = lookup({
	name: "tasks.draft",
	right: "assignTasks",
	input: z.object({ dealIds: z.array(idSchema).max(500, "At most 500 deals at once.") }),
	async run({ context, input: { dealIds } }) {
		const { organisation, actor, now } = context;
		const { rules } = organisation.company;
		const reach = reachOf(organisation, actor);
		const survey = surveyOn(organisation.company, now.day);
		const quarter = quarterOf(now.day, rules.fiscal);
		const deals = [...new Set(dealIds)].map((id) => {
			const index = organisation.dealIndex.get(id) ?? -1;
			const seen = survey.deals[index];
			if (!seen || !reaches(reach, seen.owner)) throw notFound("deal", id);
			const owner = organisation.people[seen.owner];
			return {
				id,
				name: dealName(organisation, index),
				account: accountName(organisation, index),
				owner: ownerName(organisation, seen.owner),
				ownerActive: owner !== undefined && worksOn(owner, now.day),
				close: isoOrNull(seen.close),
				open: seen.status === "open",
				fields: fieldsOf(context, id, []),
				flags: seen.flags.map(({ code, label, remedy, severity }) => ({ code, label, remedy, severity })),
			};
		});
		const days: string[] = [];
		for (let day = now.day; days.length < AHEAD; day = rules.calendar.add(day, 1)) days.push(formatDay(day));
		const rows = await connection().db.select().from(kits).orderBy(kits.name);
		return {
			deals,
			people: assignablePeople(context),
			teams: assignableTeams(context),
			kits: rows.map(({ id, name, about, steps }) => ({ id, name, about, steps })),
			kinds: organisation.activityKinds,
			/** today, and then the next working days */
			days,
			due: formatDay(defaultDue(rules.calendar, now.day, quarter)),
			periodCloses: formatDay(rules.calendar.lastOnOrBefore(quarter.end)),
			today: formatDay(now.day),
		};
	},
});
