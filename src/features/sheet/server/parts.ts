import { UNDONE } from "@/core/deal/fields";
import type { DealSeen } from "@/core/dealSeen";
import { RULES } from "@/core/flags/list";
import { type Flag, valuesOf } from "@/core/flags/rule";
import type { FlagSettings } from "@/core/flags/settings";
import { formatDay } from "@/core/time/day";
import { quarterIndex, quarterOf } from "@/core/time/period";
import { byCount } from "@/core/words/grammar";
import type { OrganisationState } from "@/data/organisation/state";
import type { DealRecords } from "@/data/queries/dealRecords";
import { ownerShort } from "@/platform/names";

/** The trouble of a deal in one sentence: the two gravest reasons, and how many more there are. */
export function headlineOf(flags: readonly Pick<Flag, "reason">[], status: string): string {
	if (status !== "open") return `This deal is ${status}.`;
	const [first, second, ...rest] = flags;
	if (!first) return "No flags are on.";
	const sentence = [first.reason, second?.reason].filter(Boolean).join("; ");
	const more = rest.length ? `; and ${rest.length} more ${byCount(rest.length, "flag", "flags")}` : "";
	return `${sentence.charAt(0).toUpperCase()}${sentence.slice(1)}${more}.`;
}

/** The settings by which a flag fires in a stage: `2 pushes`, `1 quarter ends`. */
export function settingWords(code: string, set: FlagSettings, stage: string | null): string[] {
	const rule = RULES.find((r) => r.code === code);
	if (!rule) return [];
	const values = valuesOf(rule, set, stage);
	return Object.entries(rule.settings).flatMap(([name, spec]) => (values[name] === null ? [] : [`${values[name]} ${spec.unit}`]));
}

/** The close-date trail with who moved it each time, and why. */
export function trailOfSheet(organisation: OrganisationState, seen: DealSeen, records: DealRecords, day: number) {
	const { fiscal, zone } = organisation.company.rules;
	const { points, pushes, pulls, pushedDays, netDays, crossings } = seen.trail;
	const dates = [...points.map((p) => p.close), day];
	const ends: string[] = [];
	if (points.length) {
		const last = quarterIndex(Math.max(...dates), fiscal);
		for (let at = Math.min(...dates); quarterIndex(at, fiscal) <= last; ) {
			const { end } = quarterOf(at, fiscal);
			ends.push(formatDay(end));
			at = end + 1;
		}
	}
	return {
		points: points.map((p) => {
			const close = formatDay(p.close);
			// The version of that day which brought the date; versions are newest first.
			const version = records.versions.findLast((v) => v.closeDate === close && zone.dayOf(v.validFrom.getTime()) === p.set);
			return {
				set: formatDay(p.set),
				close,
				by: version?.byId && organisation.personIndex.has(version.byId) ? ownerShort(organisation, organisation.personIndex.get(version.byId) as number) : null,
				reason: version?.reason === UNDONE ? "deleted" : (version?.reason ?? null),
			};
		}),
		pushes,
		pulls,
		pushedDays,
		netDays,
		crossings,
		quarterEnds: ends,
	};
}

/** The people of the buyer's on a deal, with whom they report to and when each was last spoken to; and the roles nobody has. */
export function peopleOf(organisation: OrganisationState, records: DealRecords, until: number) {
	const { zone } = organisation.company.rules;
	const names = new Map(records.contacts.map((contact) => [contact.id, contact.name]));
	const people = records.contacts.map((contact) => {
		const last = records.activities.find(
			(activity) => activity.state === "done" && activity.direction !== "none" && activity.contactIds.includes(contact.id) && activity.at.getTime() < until,
		);
		return {
			id: contact.id,
			name: contact.name,
			title: contact.title,
			email: contact.email,
			role: contact.buyingRole,
			reportsTo: contact.reportsToId && names.has(contact.reportsToId) ? contact.reportsToId : null,
			last: last ? formatDay(zone.dayOf(last.at.getTime())) : null,
		};
	});
	const missing = [
		...(people.some((person) => person.role === "decision_maker") ? [] : ["signatory"]),
		...(people.some((person) => person.role === "champion") ? [] : ["champion"]),
	];
	return { people: inHierarchy(people), missing };
}

/** People with their depth: each below the one they report to. */
function inHierarchy<T extends { id: string; reportsTo: string | null }>(people: readonly T[]): (T & { depth: number })[] {
	const out: (T & { depth: number })[] = [];
	const walk = (above: string | null, depth: number) => {
		for (const person of people) {
			if (person.reportsTo !== above || out.some((other) => other.id === person.id)) continue;
			out.push({ ...person, depth });
			walk(person.id, depth + 1);
		}
	};
	walk(null, 0);
	// Whoever reports in a circle stands below nobody.
	for (const person of people) {
		if (out.some((other) => other.id === person.id)) continue;
		out.push({ ...person, depth: 0 });
		walk(person.id, 1);
	}
	return out;
}
