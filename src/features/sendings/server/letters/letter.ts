import type { Context } from "@/platform/context";
import type { FileContent } from "@/platform/tableFile";
import type { Viewpoint } from "@/platform/viewpoint";

/** What is told of something that is sent: a finding, what stands beside it, its table, and the address of the live thing. */
export interface Letter {
	readonly subject: string;
	readonly says: readonly string[];
	readonly content: FileContent;
	readonly path: string;
}

/** A kind of thing that can be sent by itself. */
export interface LetterKind {
	readonly key: string;
	/** as it stands in a list to choose from */
	readonly label: string;
	/** what has to be chosen for it */
	readonly of?: "view";
	/** What somebody is sent of it, within their own reach; null where there is nothing to send. The use cases that it reads check their rights. */
	readonly read: (context: Context, viewpoint: Viewpoint, of: string) => Promise<Letter | null>;
}

/**
 * Makes a kind of letter.
 *
 * @example export const tasksLetter = letterKind({ key: "tasks", label: "open tasks", read: async (context, viewpoint) => ({ subject, says, content, path: "/tasks" }) });
 */
export const letterKind = (given: LetterKind): LetterKind => given;
