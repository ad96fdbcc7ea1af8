import { sealAt } from "@/core/bridge/seal";
import { newestVersion } from "@/core/history/columns";
import { type Day, formatDay } from "@/core/time/day";
import { quarterOf } from "@/core/time/period";
import { periodWords } from "@/core/time/words";
import { connection, type Tx } from "@/data/db";
import { currentOrganisation } from "@/data/organisation/follow";
import type { OrganisationState } from "@/data/organisation/state";
import { marks } from "@/data/schema";
import { clock } from "@/platform/clock";
import { firstKnown } from "@/platform/firstKnown";
import { isNight, NIGHTLY } from "@/platform/viewpoint";
import { systemWrite, type Written } from "@/platform/write";

export interface DueMark {
	readonly day: Day;
	/** the last millisecond of the day */
	readonly at: number;
	readonly name: string;
}

/** Longer gaps are not filled mark by mark: any past day can be seen anyway. */
const MOST = 92;

/**
 * The marks that are missing up to the night before `today`: one for each night since the last one that was kept
 * (or for the last night alone), under the period's name where a period ended.
 */
export function dueMarks(organisation: OrganisationState, today: Day): DueMark[] {
	const { rules } = organisation.company;
	if (!organisation.dealIndex.size) return [];
	const last = today - 1;
	const kept = organisation.marks.findLast(isNight)?.day ?? last - 1;
	const due: DueMark[] = [];
	for (let day = Math.max(kept + 1, last - MOST, firstKnown(organisation)); day <= last; day++) {
		const period = quarterOf(day, rules.fiscal);
		due.push({ day, at: rules.zone.instantAt(day + 1, 0) - 1, name: period.end === day ? `End of ${periodWords(period)}` : NIGHTLY });
	}
	return due;
}

/** Keeps the marks that are missing, sealed; doing it again changes nothing. Gives the days that were kept. */
export async function keepNights(): Promise<string[]> {
	const { db } = connection();
	const before = await currentOrganisation(db);
	if (!dueMarks(before, clock(before).day).length) return [];
	const work = async (tx: Tx): Promise<Written<string[]>> => {
		const organisation = await currentOrganisation(db);
		const due = dueMarks(organisation, clock(organisation).day);
		if (!due.length) return { result: [], touched: "nothing", audit: [] };
		const newest = newestVersion(organisation.company.history);
		const made = await tx
			.insert(marks)
			.values(due.map(({ at, name }) => ({ at: new Date(at), name, byId: null, seal: sealAt(organisation.company, at), newest })))
			.onConflictDoNothing()
			.returning({ at: marks.at });
		const days = made.map(({ at }) => formatDay(organisation.company.rules.zone.dayOf(at.getTime())));
		return days.length
			? { result: days, touched: "marks", audit: { action: "night saved", detail: { days } } }
			: { result: days, touched: "nothing", audit: [] };
	};
	return systemWrite(work, null, "alone");
}
