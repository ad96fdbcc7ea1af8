import { formatDay } from "@/core/time/day";
import { plural } from "@/core/words/grammar";
import { unzip } from "@/formats/bundle/unpack";
import { dayFromName } from "@/formats/weekly/fields";
import type { Context } from "@/platform/context";
import { Fault } from "@/platform/fault";
import { startImport } from "./importBundle";
import { isQuestion } from "./weekly/refuse";
import { takeWeekly, type WeeklyTaken } from "./weekly/take";

/** A file that came by itself, and how it is meant. */
export interface FileGiven {
	readonly kind: "weekly" | "bundle";
	/** the part that a weekly file is about; empty: all of it */
	readonly covers: string;
	readonly name: string;
	readonly bytes: Uint8Array;
}

/** What came of it: a weekly file was imported, or asks something first; or a bundle, as its report says. */
export type FileImported =
	| (WeeklyTaken & { readonly kind: "weekly"; readonly question: false })
	| { readonly kind: "weekly"; readonly question: true; readonly day: string; readonly words: string }
	| { readonly kind: "bundle"; readonly ok: boolean; readonly id: string; readonly words: string };

const ZIP = [0x50, 0x4b, 0x03, 0x04];

/**
 * Imports a file without anybody there to answer: what is plain is written, what has to be chosen or confirmed is said.
 *
 * @throws Fault 422 for what can’t be imported whatever is chosen
 */
export async function importFile(context: Context, { kind, covers, name, bytes }: FileGiven): Promise<FileImported> {
	if (kind === "bundle") {
		const { id, end } = await startImport(context, bytes, { dryRun: false, skipBad: false, name });
		const { state, changed, problems } = await end;
		const rows = Object.values(changed).reduce((sum, count) => sum + count, 0);
		const [first] = problems;
		const why = first ? [first.file, first.line ? `line ${first.line}` : "", first.column].filter(Boolean).join(", ") : "";
		return {
			kind,
			id,
			ok: state === "done",
			words: state === "done" ? `${plural(rows, "row")} changed.` : first ? `${why}: ${first.reason}. Nothing was imported.` : "Nothing was imported.",
		};
	}
	const file = await oneOf(name, bytes);
	// A file that doesn’t say its day tells of the day on which it came.
	const day = dayFromName(file.name) ?? formatDay(context.now.day);
	try {
		const taken = await takeWeekly(context, { sent: { ...file, day, plan: covers ? { covers } : null }, confirmed: [] });
		return { kind, question: false, ...taken };
	} catch (error) {
		if (error instanceof Fault && isQuestion(error)) return { kind, question: true, day, words: error.detail };
		throw error;
	}
}

/** The one file of a zip, or what was sent. A workbook is a zip too, and stays what it is. */
async function oneOf(name: string, bytes: Uint8Array): Promise<{ name: string; bytes: Uint8Array }> {
	if (/\.xlsx$/i.test(name) || !ZIP.every((byte, i) => bytes[i] === byte)) return { name, bytes };
	const files = await unzip(bytes, name).catch((error: unknown) => {
		throw new Fault(422, "Can’t be opened", `${name}: ${error instanceof Error ? error.message : "the zip can’t be read"}.`);
	});
	// A workbook under another name is known by what is in it.
	if (files.has("[Content_Types].xml")) return { name, bytes };
	const [one, ...more] = [...files];
	if (!one || more.length) throw new Fault(422, "Several files", `${name} holds ${files.size} files; a zip for a feed holds one.`);
	return { name: one[0], bytes: one[1] };
}
