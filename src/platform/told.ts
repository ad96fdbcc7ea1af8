import type { Picture } from "@/formats/picture/picture";
import type { FileContent } from "./tableFile";

/** A part of what is told where no screen is: a heading, sentences, a picture and a table, and the address of the live thing. */
export interface Told {
	/** empty where it needs none */
	readonly title: string;
	readonly says: readonly string[];
	readonly picture?: Picture | null;
	readonly content?: FileContent;
	/** the table as a narrow page has room for it, where that isn’t the whole */
	readonly brief?: Pick<FileContent, "columns" | "rows">;
	readonly path: string | null;
}
