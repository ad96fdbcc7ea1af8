import type { Context } from "@/platform/context";
import type { FileContent } from "@/platform/tableFile";
import type { Told } from "@/platform/told";
import type { Viewpoint } from "@/platform/viewpoint";

/** What is sent: a finding, what it says at once, what is told under it, and the address of the live thing. */
export interface Letter {
	readonly subject: string;
	readonly says: readonly string[];
	readonly parts: readonly Told[];
	readonly path: string;
}

/** What a kind of letter is a letter of, where there are several. */
export interface LetterChoice {
	/** asks for one, such as “Which view” */
	readonly label: string;
	/** what recipients need to see it */
	readonly hint: string;
	/** those that somebody may choose */
	readonly choices: (context: Context) => Promise<readonly { readonly id: string; readonly name: string }[]>;
}

/** A kind of thing that can be sent by itself. */
export interface LetterKind {
	readonly key: string;
	/** as it stands in a list to choose from */
	readonly label: string;
	/** what has to be chosen for it */
	readonly of?: LetterChoice;
	/** it is of deals of its own: nobody chooses whose */
	readonly own?: true;
	/** What somebody is sent of it, within their own reach; null where there is nothing to send. The use cases that it reads check their rights. */
	readonly read: (context: Context, viewpoint: Viewpoint, of: string) => Promise<Letter | null>;
}

/** Some columns of a table, by how their labels begin, in that order. */
export function columnsOf({ columns, rows }: Pick<FileContent, "columns" | "rows">, labels: readonly string[]): Pick<FileContent, "columns" | "rows"> {
	const named = (fits: (label: string) => boolean) => columns.findIndex((column) => fits(column.label));
	const find = (label: string) => (named((one) => one === label) < 0 ? named((one) => one.startsWith(`${label} `)) : named((one) => one === label));
	const at = labels.map(find).filter((i) => i >= 0);
	const chosen = <T>(row: readonly T[]) => at.map((i) => row[i] as T);
	return { columns: chosen(columns), rows: rows.map(chosen) };
}

/**
 * Makes a kind of letter.
 *
 * @example export const tasksLetter = letterKind({ key: "tasks", label: "open tasks", read: async (context, viewpoint) => ({ subject, says, parts: [{ title: "", says: [], content, path: null }], path: "/tasks" }) });
 */
export const letterKind = (given: LetterKind): LetterKind => given;
