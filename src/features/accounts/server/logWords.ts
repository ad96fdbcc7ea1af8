import { type SQL, sql } from "drizzle-orm";

/** Every word is to be in the subject or in the text of an entry, as it is typed; nothing where none is asked for. */
export const wordsIn = (text: string | undefined): SQL =>
	sql.join(
		(text ?? "")
			.trim()
			.split(/\s+/)
			.filter(Boolean)
			.map((word) => `%${word.replace(/[\\%_]/g, "\\$&")}%`)
			.map((like) => sql`and (subject ilike ${like} or body ilike ${like})`),
		sql` `,
	);
