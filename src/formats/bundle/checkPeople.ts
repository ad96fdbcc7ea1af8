import type { Known, Say } from "./checkShapes";
import type { Row } from "./model";

/** Says where two people have one e-mail address, and where teams contradict one another or lie under themselves. */
export function checkPeople(rows: readonly Row[], known: Known, say: Say): void {
	const parents = new Map(known.teamParents);
	const given = new Map<string, string>();
	const emails = new Map(known.emails);
	for (const row of rows) {
		const { id, email, team, parent_team: parent } = row.fields as Record<string, string | null>;
		const owner = email ? emails.get(email.toLowerCase()) : undefined;
		if (owner !== undefined && owner !== id) say(row, "email", email, `${owner} has this e-mail address already`);
		else if (email) emails.set(email.toLowerCase(), String(id));
		if (!team) {
			if (parent) say(row, "parent_team", parent, "a parent team needs a team");
			continue;
		}
		const before = given.get(team);
		if (parent && before && before !== parent) say(row, "parent_team", parent, `another row says that ${team} belongs to ${before}`);
		else if (parent) {
			given.set(team, parent);
			parents.set(team, parent);
			if (circular(team, parents)) say(row, "parent_team", parent, `${team} would be above itself`);
		}
	}
}

function circular(start: string, parents: ReadonlyMap<string, string | null>): boolean {
	const met = new Set<string>();
	for (let at: string | null | undefined = start; at; at = parents.get(at)) {
		if (met.has(at)) return true;
		met.add(at);
	}
	return false;
}

/** Says where contacts report to themselves, through others too. */
export function checkReporting(rows: readonly Row[], say: Say): void {
	const boss = new Map(rows.map((row) => [String(row.fields.id), row.fields.reports_to_id as string | null]));
	for (const row of rows) {
		if (circular(String(row.fields.id), boss)) say(row, "reports_to_id", row.fields.reports_to_id, "this person would report to themselves");
	}
}
