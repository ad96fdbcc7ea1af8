import { type SQL, sql } from "drizzle-orm";

export interface LogFilter {
	readonly kind?: string | undefined;
	/** of ours or of theirs, by id */
	readonly person?: string | undefined;
	/** a deal’s id; `none`: filed under the account itself */
	readonly deal?: string | undefined;
	/** words in subject or text */
	readonly q?: string | undefined;
}

/** more words don’t narrow a search any further */
const MOST_WORDS = 12;

/** The words that are looked for, as they are typed. */
export const wordsAsked = (q: string | undefined): string[] => (q ?? "").trim().split(/\s+/).filter(Boolean).slice(0, MOST_WORDS);

/** Every word is to be in the subject or in the text of an entry; nothing where none is asked for. */
const wordsIn = (q: string | undefined): SQL =>
	sql.join(
		wordsAsked(q)
			.map((word) => `%${word.replace(/[\\%_]/g, "\\$&")}%`)
			.map((like) => sql`and (subject ilike ${like} or body ilike ${like})`),
		sql` `,
	);

/** What a log is narrowed by, on rows of `kind`, `by_id`, `contact_ids`, `deal_id`, `subject` and `body`. */
export const narrowed = ({ kind, person, deal, q }: LogFilter): SQL => sql`
	${kind ? sql`and kind = ${kind}` : sql``}
	${person ? sql`and (by_id = ${person} or ${person} = any(contact_ids))` : sql``}
	${deal === "none" ? sql`and deal_id is null` : deal ? sql`and deal_id = ${deal}` : sql``}
	${wordsIn(q)}`;
