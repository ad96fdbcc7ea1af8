/** The largest file that is kept with a deal or an account, in bytes. */
export const MOST_FILE = 20 * 2 ** 20;
const MOST_NAME = 200;

/** What a file is, in a word, by its media type. */
const KINDS: readonly (readonly [RegExp, string])[] = [
	[/^application\/pdf$/, "PDF"],
	[/^image\//, "picture"],
	[/wordprocessingml|msword|opendocument\.text/, "document"],
	[/spreadsheetml|ms-excel|opendocument\.spreadsheet/, "spreadsheet"],
	[/presentationml|ms-powerpoint|opendocument\.presentation/, "presentation"],
	[/^text\//, "text"],
	[/^(audio|video)\//, "recording"],
	[/zip|compressed|x-tar|x-7z|x-rar|gzip/, "archive"],
	[/msdownload|x-msi|x-executable|x-elf|x-mach|java-archive|x-sh/, "program"],
];

/** A media type in a word; `file` where it says nothing. */
export const fileKind = (type: string | null): string => KINDS.find(([fits]) => fits.test(type ?? ""))?.[1] ?? "file";

/** Bytes as a person reads them: `820 B`, `14 kB`, `2.3 MB`. */
export function fileSize(bytes: number): string {
	if (bytes < 1000) return `${bytes} B`;
	if (bytes < 999_500) return `${Math.round(bytes / 1000)} kB`;
	return `${(bytes / 1e6).toFixed(bytes < 9.95e6 ? 1 : 0)} MB`;
}

/** A file’s name as it is kept: without folders before it, or signs that can’t be seen. */
export function fileName(given: string): string {
	const bare = (given.split(/[\\/]/).pop() ?? "")
		// biome-ignore lint/suspicious/noControlCharactersInRegex: these are what is taken out
		.replace(/[\u0000-\u001f\u007f-\u009f\u200b-\u200f\u202a-\u202e\u2060-\u2069\ufeff]/g, "")
		.normalize("NFC")
		.trim();
	if (!bare || /^\.+$/.test(bare)) return "file";
	if (bare.length <= MOST_NAME) return bare;
	const end = /\.[^.]{1,10}$/.exec(bare)?.[0] ?? "";
	return bare.slice(0, MOST_NAME - end.length) + end;
}
