import { fieldChanges } from "@/core/bridge/compare";
import { type FieldSetting, fieldOf, stateAt, valueWords } from "@/core/deal/fields";
import type { Flag } from "@/core/flags/rule";
import { litSince } from "@/core/flags/since";
import { asOf, NONE, nextStepOf } from "@/core/history/columns";
import { amountBaseOf, categoryOf, rowOf } from "@/core/inspect";
import { worksOn } from "@/core/people/person";
import { type Day, formatDay, isoOrNull, NO_DAY, parts } from "@/core/time/day";
import { outcomeOn } from "@/data/organisation/former";
import type { OrganisationState } from "@/data/organisation/state";
import type { DealRecords } from "@/data/queries/dealRecords";
import { recordsAsOf } from "@/data/queries/recordsAsOf";
import { aheadOf, editChoices } from "@/features/deals";
import { storiesOf, taskJson } from "@/features/tasks";
import { query } from "@/platform/command";
import type { Context } from "@/platform/context";
import { recordsOf } from "@/platform/dealRecords";
import { accountName, ownerName, ownerShort } from "@/platform/names";
import { reachDealOn } from "@/platform/reachDeal";
import { may } from "@/platform/rights";
import { surveyOn } from "@/platform/survey";
import { resolveViewpoint } from "@/platform/viewpoint";
import { accountOf } from "./account";
import { headlineOf, peopleOf, trailOfSheet } from "./parts";
import { questionsOf } from "./questions";
import { flagsOf, linesOf, planOf, quotesOf, visitsOf } from "./records";
import type { SheetTask, SheetView } from "./sheetView";
import { endOf, happeningsOf } from "./timeline";
import { whoSees } from "./writeNote";

/** The sheet of one deal. Throws 404 when it isn't there on that day, or belongs to someone out of reach. */
export const readSheet = query("sheet.read", "readDeals", async (context: Context, id: string, seenText: string, againstText: string): Promise<SheetView> => {
	const { organisation } = context;
	const { company } = organisation;
	const { calendar, stages, rates } = company.rules;
	const viewpoint = resolveViewpoint(context, { seen: seenText || undefined, against: againstText || undefined });
	const day = viewpoint.seen.day;
	const against = viewpoint.against.day;
	const { index: deal, seen, attributes: name, now } = reachDealOn(context, id, day);
	const survey = surveyOn(company, day);
	const account = organisation.accounts.get(name.accountId ?? "");
	const until = endOf(organisation, day);
	const records = recordsAsOf(await recordsOf(organisation, deal), until, formatDay(day));
	const { history } = company;
	const rowA = asOf(history, deal, against);
	const before = surveyOn(company, against).deals[deal] ?? null;
	const own = history.amount[rowOf(history, seen)] as number;
	const state = stateAt(company, rowOf(history, seen), (person) => organisation.people[person]?.id ?? null);
	const codes = (list: readonly Flag[]) => list.map((flag) => flag.code);
	const owner = organisation.people[seen.owner];
	const since = litSince(
		company,
		deal,
		day,
		seen.flags.map((flag) => flag.code),
	);
	const live = day === context.now.day;
	const { people, missing } = peopleOf(organisation, records, until);

	return {
		id,
		name: name.name || "No name",
		account: accountName(organisation, deal),
		customer: account?.kind ?? null,
		owner: ownerName(organisation, seen.owner),
		ownerId: owner?.id ?? null,
		ownerActive: owner !== undefined && worksOn(owner, day),
		source: name.source,
		...outcomeOn(name, day),
		status: seen.status,
		stage: stages[seen.stageIndex]?.name ?? "",
		category: categoryOf(organisation.company, seen),
		amount: seen.amountBase,
		ownAmount: Number.isNaN(own) ? null : own,
		ownCurrency: company.rules.currencies[history.currency[rowOf(history, seen)] as number] ?? rates.base,
		baseCurrency: rates.base,
		close: isoOrNull(seen.close),
		nextStep: nextStepOf(history, rowOf(history, seen)) || null,
		nextStepDay: isoOrNull(history.nextStepDay[rowOf(history, seen)] as number),
		seen: formatDay(day),
		against: formatDay(against),
		past: day < context.now.day,
		rest: seen.rest ? { until: formatDay(seen.rest.until), reason: seen.rest.reason, by: ownerName(organisation, seen.rest.by) } : null,
		ahead: live ? isoOrNull(aheadOf(context, deal) ?? NO_DAY) : null,
		headline: headlineOf(seen.flags, seen.status),
		flags: flagsOf(organisation, seen, since, day),
		attention: { ...seen.attention, median: survey.norms.medianAmount },
		qualification: {
			strength: seen.qualification.strength,
			coverage: seen.qualification.coverage,
			expected: seen.qualification.expected,
			questions: questionsOf(organisation, seen, records, day, until),
		},
		trail: trailOfSheet(organisation, seen, records, day),
		visits: visitsOf(organisation, seen, survey.norms),
		dealAge: seen.dealAge,
		created: formatDay(company.deals[deal]?.createdDay ?? 0),
		changes: changesSince(organisation, rowA, rowOf(history, seen), day),
		changedAmounts: { before: rowA < 0 ? null : amountBaseOf(company, rowA, day), after: seen.amountBase },
		newSince: rowA < 0,
		lit: codes(seen.flags).filter((code) => !codes(before?.flags ?? []).includes(code)),
		wentOut: (before?.flags ?? []).filter((flag) => !codes(seen.flags).includes(flag.code)).map((flag) => flag.label),
		lastTouch: isoOrNull(seen.contact.lastTouch),
		lastTouchDays: seen.contact.lastTouch === NO_DAY ? null : calendar.between(seen.contact.lastTouch, day),
		waiting: seen.contact.waiting
			? { side: seen.contact.waiting.side, since: formatDay(seen.contact.waiting.since), days: calendar.between(seen.contact.waiting.since, day) }
			: null,
		people,
		missing,
		// Whom to choose from is asked on the day itself alone.
		others: !live ? [] : records.colleagues.filter((contact) => !people.some((person) => person.id === contact.id)),
		quotes: quotesOf(records, day),
		plan: planOf(records, day),
		accountInfo: accountOf(context, deal, records, day),
		// What has no day of its own is for those who reach the deal now.
		lines: now ? linesOf(records) : [],
		happenings: happeningsOf(context, records, day, until),
		tasks: tasksOf(context, records, day),
		mayAssign: may(context.actor, "assignTasks") && live && seen.status === "open",
		mayEdit: may(context.actor, "editDeals") && live,
		mayNote: may(context.actor, "writeNotes") && live,
		versionId: history.id[rowOf(history, seen)] as number,
		state: { ...state, currency: state.currency ?? rates.base },
		choices: editChoices(context),
		callable: whoSees(context, seen.owner).map((person) => person.name),
		me: context.actor.person.name,
	};
});

function changesSince(organisation: OrganisationState, rowA: number, rowB: number, day: Day): SheetView["changes"] {
	const { company } = organisation;
	const { stages, currencies, rates } = company.rules;
	const setting: FieldSetting = {
		stages,
		currency: currencies[company.history.currency[rowB] as number] ?? rates.base,
		person: (owner) => ownerName(organisation, owner === null ? NONE : Number(owner)),
		near: parts(day).year,
	};
	return fieldChanges(company, rowA, rowB).map(({ field: key, before, after }) => {
		const field = fieldOf(key);
		return { field: field.words, before: valueWords(field, before, setting), after: valueWords(field, after, setting) };
	});
}

function tasksOf(context: Context, records: DealRecords, day: number): SheetTask[] {
	const { organisation } = context;
	const { zone } = organisation.company.rules;
	return records.tasks
		.filter((task) => zone.dayOf(task.createdAt.getTime()) <= day)
		.map((stored) => {
			const task = taskJson(context, stored, day);
			const name = ownerShort(organisation, organisation.personIndex.get(task.assigneeId ?? "") ?? NONE);
			return {
				id: task.id,
				title: task.title,
				assignee: task.assigneeId === null && task.team !== null ? `anyone of ${task.team}` : name,
				due: task.dueOn,
				state: task.state,
				late: task.overdue,
				stories: storiesOf(context, stored, day).map(({ name, words }) => ({ name, words })),
			};
		});
}
