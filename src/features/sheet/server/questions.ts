import type { DealSeen } from "@/core/dealSeen";
import { LEVELS, type Level } from "@/core/qualification/answer";
import { answersOf } from "@/core/qualification/answers";
import { scoreOf } from "@/core/qualification/score";
import { formatDay, isoOrNull, NO_DAY } from "@/core/time/day";
import type { OrganisationState } from "@/data/organisation/state";
import type { DealRecords } from "@/data/queries/dealRecords";
import type { ProofFiles } from "@/features/attachments";
import { personName } from "@/platform/names";

/** What the deal's figures would be with another answer. */
export interface Effect {
	readonly level: Level;
	readonly strength: number;
	readonly coverage: number;
}

export interface SheetQuestion {
	readonly id: string;
	readonly area: string;
	readonly prompt: string;
	readonly help: string | null;
	readonly weight: number;
	readonly key: boolean;
	readonly due: boolean;
	readonly level: Level;
	readonly day: string | null;
	/** working days since the newest answer */
	readonly age: number | null;
	readonly gap: boolean;
	readonly stale: boolean;
	readonly note: string | null;
	/** the instant of the newest answer; a new one names it */
	readonly at: string | null;
	readonly effects: readonly Effect[];
	/** who said what and when, newest first */
	readonly history: readonly {
		readonly level: string;
		readonly by: string | null;
		readonly day: string;
		readonly note: string | null;
		readonly shownBy: string | null;
		/** the same as an answer names it */
		readonly proof: string | null;
		readonly link: string | null;
	}[];
}

/** The questions of a deal as seen on a day, with their history up to then and what each answer would do. */
export function questionsOf(
	organisation: OrganisationState,
	seen: DealSeen,
	records: DealRecords,
	day: number,
	until: number,
	files: ProofFiles = new Map(),
): SheetQuestion[] {
	const { calendar, zone } = organisation.company.rules;
	const { questions, standings } = seen.qualification;
	const given = records.answers.filter((answer) => answer.at.getTime() < until);
	return questions.map((question, i) => {
		const standing = standings[i] as DealSeen["qualification"]["standings"][number];
		const own = given.filter((answer) => answer.questionId === question.id);
		return {
			id: question.id,
			area: question.area,
			prompt: question.prompt,
			help: organisation.questionHelp.get(question.id) ?? null,
			weight: question.weight,
			key: question.key,
			due: standing.due,
			level: standing.level,
			day: isoOrNull(standing.day),
			age: standing.day === NO_DAY ? null : calendar.between(standing.day, day),
			gap: standing.gap,
			stale: standing.stale,
			note: own[0]?.note ?? null,
			at: own[0]?.at.toISOString() ?? null,
			effects: LEVELS.map((level) => effectOf(organisation, seen, i, level)),
			history: own.map((answer) => ({
				level: answer.level,
				by: personName(organisation, answer.byId),
				day: formatDay(zone.dayOf(answer.at.getTime())),
				note: answer.note,
				proof: answer.shownBy,
				...proofWords(records, answer.shownBy, files),
			})),
		};
	});
}

function effectOf(organisation: OrganisationState, seen: DealSeen, index: number, level: Level): Effect {
	const { questions, standings } = seen.qualification;
	const answers = questions.map((question, i) => ({
		question: question.slot,
		level: i === index ? level : (standings[i]?.level ?? "unknown"),
		at: 0,
		day: 0,
	}));
	const { strength, coverage } = scoreOf(questions, answersOf(answers), 0, 0, organisation.company.rules.calendar, Number.POSITIVE_INFINITY);
	return { level, strength, coverage };
}

/** What shows an answer, in words, and where it leads when it is a link. */
function proofWords(records: DealRecords, shownBy: string | null, files: ProofFiles): { shownBy: string | null; link: string | null } {
	if (!shownBy) return { shownBy: null, link: null };
	if (/^https?:/.test(shownBy)) return { shownBy: shownBy, link: shownBy };
	const id = shownBy.slice(shownBy.indexOf(":") + 1);
	const file = files.get(id);
	if (file) return { shownBy: file.present ? file.name : `${file.name} (removed)`, link: file.present ? file.href : null };
	const activity = records.activities.find((a) => a.id === id);
	const contact = records.contacts.find((c) => c.id === id);
	return { shownBy: activity ? `${activity.kind}: ${activity.subject ?? ""}` : (contact?.name ?? shownBy), link: null };
}
