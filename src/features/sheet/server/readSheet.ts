import { fieldChanges } from "@/core/bridge/compare";
import { type FieldSetting, fieldOf, stateAt, valueWords } from "@/core/deal/fields";
import type { DealSeen } from "@/core/dealSeen";
import type { Flag } from "@/core/flags/rule";
import { litSince } from "@/core/flags/since";
import { asOf, blockOf, NONE, nextStepOf } from "@/core/history/columns";
import { amountBaseOf, categoryOf, rowOf } from "@/core/inspect";
import { worksOn } from "@/core/people/person";
import { surveyOn } from "@/core/survey";
import { type Day, formatDay, isoOrNull, NO_DAY, parts } from "@/core/time/day";
import { accountsOn, identityOn, outcomeOn } from "@/data/organisation/former";
import type { OrganisationState } from "@/data/organisation/state";
import type { DealRecords } from "@/data/queries/dealRecords";
import { recordsAsOf } from "@/data/queries/recordsAsOf";
import { anybodyKnows } from "@/features/accounts";
import { listOfDeal, proofFilesOf } from "@/features/attachments";
import { aheadOf, editChoices } from "@/features/deals";
import { storiesOf, taskJson } from "@/features/tasks";
import { query } from "@/platform/command";
import type { Context } from "@/platform/context";
import { recordsOf } from "@/platform/dealRecords";
import { ownerName, ownerShort } from "@/platform/names";
import { reachDealOn } from "@/platform/reachDeal";
import { may } from "@/platform/rights";
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
	// Long: one object, its parts in their order.
	const { organisation } = context;
	const { company } = organisation;
	const viewpoint = resolveViewpoint(context, { seen: seenText || undefined, against: againstText || undefined });
	const day = viewpoint.seen.day;
	const { index: deal, seen, attributes, now } = reachDealOn(context, id, day);
	const survey = surveyOn(company, day);
	const until = endOf(organisation, day);
	const records = recordsAsOf(await recordsOf(organisation, deal), until, formatDay(day));
	const { files, proofs } = await filesOf(context, id, day, records);
	const live = day === context.now.day;
	const identity = identityOn(attributes, day);
	const account = accountsOn(organisation, day).get(identity.accountId ?? "");
	const { people, missing } = peopleOf(organisation, records, until);
	const lit = seen.flags.map((flag) => flag.code);
	const signs = people.flatMap(({ id: person, role }) => (role === "decision_maker" ? [person] : []));
	const unknown = signs.length > 0 && !(await anybodyKnows(context, signs, day)) ? ["somebody of ours who knows who signs"] : [];

	return {
		id,
		name: identity.name || "No name",
		account: account?.name || "No account",
		identity,
		customer: account?.kind ?? null,
		source: attributes.source,
		...outcomeOn(attributes, day),
		...standingOf(context, seen, day),
		seen: formatDay(day),
		past: day < context.now.day,
		ahead: live ? isoOrNull(aheadOf(context, deal) ?? NO_DAY) : null,
		headline: headlineOf(seen.flags, seen.status),
		flags: flagsOf(organisation, seen, litSince(company, deal, day, lit), day),
		attention: { ...seen.attention, median: survey.norms.medianAmount },
		qualification: {
			strength: seen.qualification.strength,
			coverage: seen.qualification.coverage,
			expected: seen.qualification.expected,
			questions: questionsOf(organisation, seen, records, day, until, proofs),
		},
		trail: trailOfSheet(organisation, seen, records, day),
		visits: visitsOf(organisation, seen, survey.norms),
		dealAge: seen.dealAge,
		created: formatDay(company.deals[deal]?.createdDay ?? 0),
		...comparedWith(organisation, seen, day, viewpoint.against.day),
		...touchOf(organisation, seen, day),
		people,
		missing: [...missing, ...unknown],
		// Whom to choose from is asked on the day itself alone.
		others: !live ? [] : records.colleagues.filter((contact) => !people.some((person) => person.id === contact.id)),
		quotes: quotesOf(records, day),
		plan: planOf(records, day),
		accountInfo: accountOf(context, deal, records, day),
		// What has no day of its own is for those who reach the deal now.
		lines: now ? linesOf(records) : [],
		happenings: happeningsOf(context, attributes, records, day, until),
		files,
		tasks: tasksOf(context, records, day),
		...rightsOf(context, seen, live),
		choices: editChoices(context),
		callable: whoSees(context, seen.owner).map((person) => person.name),
		me: context.actor.person.name,
	};
});

/** What the person may do with the deal: nothing on a past day. */
const rightsOf = ({ actor }: Context, { status }: DealSeen, live: boolean) => ({
	mayAssign: may(actor, "assignTasks") && live && status === "open",
	mayEdit: may(actor, "editDeals") && live,
	mayNote: may(actor, "writeNotes") && live,
});

/** Files and links of a deal on a day, and those that its answers name. */
async function filesOf(context: Context, id: string, day: Day, { answers }: DealRecords) {
	const files = await listOfDeal(context, id, day);
	const named = answers.map(({ shownBy }) => shownBy);
	return { files, proofs: await proofFilesOf(context, named, files, id, day) };
}

/** How a deal stands: whose it is, its stage, amount and dates. */
function standingOf({ organisation }: Context, seen: DealSeen, day: Day) {
	const { company, people } = organisation;
	const { stages, rates, currencies } = company.rules;
	const { history } = company;
	const row = rowOf(history, seen);
	const block = blockOf(history, seen.deal);
	const own = block.amount[row] as number;
	const owner = people[seen.owner];
	const state = stateAt(company, block, row, (person) => people[person]?.id ?? null);
	return {
		owner: ownerName(organisation, seen.owner),
		ownerId: owner?.id ?? null,
		ownerActive: owner !== undefined && worksOn(owner, day),
		status: seen.status,
		stage: stages[seen.stageIndex]?.name ?? "",
		category: categoryOf(company, seen),
		amount: seen.amountBase,
		ownAmount: Number.isNaN(own) ? null : own,
		ownCurrency: currencies[block.currency[row] as number] ?? rates.base,
		baseCurrency: rates.base,
		close: isoOrNull(seen.close),
		nextStep: nextStepOf(block, row) || null,
		nextStepDay: isoOrNull(block.nextStepDay[row] as number),
		rest: seen.rest ? { until: formatDay(seen.rest.until), reason: seen.rest.reason, by: ownerName(organisation, seen.rest.by) } : null,
		versionId: block.id[row] as number,
		state: { ...state, currency: state.currency ?? rates.base },
	};
}

/** What is other than on an earlier day: fields, amounts, flags that were lit and went out. */
function comparedWith(organisation: OrganisationState, seen: DealSeen, day: Day, against: Day) {
	const { company } = organisation;
	const earlier = asOf(company.history, seen.deal, against);
	const before = surveyOn(company, against).deals[seen.deal]?.flags ?? [];
	const codes = (list: readonly Flag[]) => list.map((flag) => flag.code);
	return {
		against: formatDay(against),
		changes: changesSince(organisation, seen.deal, earlier, rowOf(company.history, seen), day),
		changedAmounts: { before: earlier < 0 ? null : amountBaseOf(company, blockOf(company.history, seen.deal), earlier, day), after: seen.amountBase },
		newSince: earlier < 0,
		lit: codes(seen.flags).filter((code) => !codes(before).includes(code)),
		wentOut: before.filter((flag) => !codes(seen.flags).includes(flag.code)).map((flag) => flag.label),
	};
}

/** When it was last spoken of, and who waits for whom. */
function touchOf({ company }: OrganisationState, { contact: { lastTouch, waiting } }: DealSeen, day: Day) {
	const { calendar } = company.rules;
	return {
		lastTouch: isoOrNull(lastTouch),
		lastTouchDays: lastTouch === NO_DAY ? null : calendar.between(lastTouch, day),
		waiting: waiting ? { side: waiting.side, since: formatDay(waiting.since), days: calendar.between(waiting.since, day) } : null,
	};
}

function changesSince(organisation: OrganisationState, deal: number, rowA: number, rowB: number, day: Day): SheetView["changes"] {
	const { company } = organisation;
	const { stages, currencies, rates } = company.rules;
	const setting: FieldSetting = {
		stages,
		currency: currencies[blockOf(company.history, deal).currency[rowB] as number] ?? rates.base,
		person: (owner) => ownerName(organisation, owner === null ? NONE : Number(owner)),
		near: parts(day).year,
	};
	return fieldChanges(company, deal, rowA, rowB).map(({ field: key, before, after }) => {
		const field = fieldOf(key);
		return { field: field.label, before: valueWords(field, before, setting), after: valueWords(field, after, setting) };
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
