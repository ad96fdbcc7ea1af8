import type { DealRecords } from "./dealRecords";

/**
 * What was written about a deal as it stood before an instant: nothing that came later, and what was changed later as it
 * was. `day` is the ISO day that ends there.
 */
export function recordsAsOf(records: DealRecords, until: number, day: string): DealRecords {
	const before = (at: Date | null) => at === null || at.getTime() < until;
	return {
		...records,
		versions: records.versions.filter((version) => before(version.validFrom)),
		activities: records.activities.flatMap((activity) => {
			if (!before(activity.recordedAt)) return [];
			// What was done later was still planned.
			if (activity.settledAt && activity.plannedFor && !before(activity.settledAt)) return [{ ...activity, state: "planned", at: activity.plannedFor }];
			return activity.state === "planned" || before(activity.at) ? [activity] : [];
		}),
		answers: records.answers.filter((answer) => before(answer.at)),
		notes: records.notes.filter((note) => before(note.at)),
		tasks: records.tasks.filter((task) => before(task.createdAt)),
		contacts: contactsAsOf(records, before),
		quotes: records.quotes
			.filter((quote) => !quote.sentOn || quote.sentOn <= day)
			.map((quote) => (quote.answeredOn && quote.answeredOn > day ? { ...quote, answeredOn: null, answer: null } : quote)),
		steps: records.steps
			.filter((step) => before(step.addedAt) && (step.removedAt === null || !before(step.removedAt)))
			.map((step) => (step.doneOn && step.doneOn > day ? { ...step, doneOn: null } : step)),
		orders: records.orders.filter((order) => order.date <= day),
	};
}

/** Who was on the deal and in which part, taking one later change back after another. */
function contactsAsOf({ contacts, colleagues, former }: DealRecords, before: (at: Date) => boolean): DealRecords["contacts"] {
	const on = new Map(contacts.map((contact) => [contact.id, contact]));
	for (const { at, contactId, field, before: was } of former) {
		if (before(at) || contactId === null) continue;
		const known = on.get(contactId);
		if (field === "role" && known) on.set(contactId, { ...known, buyingRole: was });
		if (field === "on_deal" && was === "no") on.delete(contactId);
		if (field === "on_deal" && was === "yes") {
			const colleague = colleagues.find((one) => one.id === contactId);
			if (colleague) on.set(contactId, { ...colleague, email: null, buyingRole: null, reportsToId: null });
		}
	}
	return [...on.values()];
}
