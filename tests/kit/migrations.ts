/** A release, and the last migration that it came with. */
export interface Release {
	readonly release: string;
	readonly last: string;
}

/** What an older program, which still serves, doesn’t survive, and what that is called. */
const TAKES: readonly (readonly [RegExp, string])[] = [
	[/\bdrop\s+table\b/i, "takes a table away"],
	[/\bdrop\s+column\b/i, "takes a column away"],
	[/\brename\s+(?:column\b|to\b|constraint\b)/i, "renames"],
	[/\balter\s+column\s+\S+\s+(?:set\s+data\s+)?type\b/i, "changes a column’s type"],
	[/\balter\s+column\s+\S+\s+set\s+not\s+null\b/i, "makes a column stricter"],
	[/\balter\s+column\s+\S+\s+drop\s+default\b/i, "takes a default away"],
	[/\badd\s+column\s+(?![^;]*\bdefault\b)[^;]*\bnot\s+null\b/i, "adds a column that older programs don’t fill"],
	[/\badd\s+constraint\b[^;]*\b(?:check|unique)\b/i, "adds a rule that older programs don’t know"],
	[/\b(?:drop\s+schema|truncate)\b/i, "takes away"],
];

/**
 * What a migration does that two versions side by side don’t bear; empty where it only adds, or where what it takes away is
 * unused since a release that came before it.
 */
export function takenAway(name: string, text: string, releases: readonly Release[]): string[] {
	const unused = /^-- unused since release (\S+)$/m.exec(text)?.[1];
	const known = releases.find(({ release }) => release === unused);
	// What the release itself still brought was used by it.
	if (known && known.last < name) return [];
	const statements = text.replace(/--.*$/gm, "").split(";");
	// What is made in the same migration is nobody’s yet.
	const made = new Set([...text.matchAll(/create\s+table\s+(?:if\s+not\s+exists\s+)?"?(\w+)"?/gi)].map(([, table]) => table));
	return statements.flatMap((statement) => {
		const table = /alter\s+table\s+(?:only\s+)?"?(\w+)"?/i.exec(statement)?.[1];
		if (table && made.has(table)) return [];
		return TAKES.flatMap(([pattern, words]) => (pattern.test(statement) ? [`${name} ${words}: ${statement.trim().slice(0, 80)}`] : []));
	});
}
