import { loadDemo } from "@/features/begin/server/demo";
import { type ImportOptions, runImport, type Source } from "@/features/import/server/importBundle";
import { asGrid } from "@/features/import/server/weekly/inspectFile";
import { readIntake } from "@/features/intake/server/readIntake";
import { findInThread } from "@/features/patterns/server/find";
import { readGrid as gridFrom } from "@/formats/grid";
import { readMail } from "@/formats/mail/readMail";
import type { TextHints } from "@/formats/text";
import type { ThreadTask } from "@/platform/threads";

/** What is done in a thread of its own (`inThread`); a new kind is a function here and a name in `ThreadTask`. */
export const importBundle = ({ id, source, options }: { id: string; source: Source; options: ImportOptions }) => runImport(id, source, options);

/** A file's table, cell by cell, or why it can't be read. */
export const readGrid = ({ bytes, sheet, hints }: { bytes: Uint8Array; sheet: string | null; hints: TextHints }) => asGrid(gridFrom(bytes, sheet, hints));

/** Answers as soon as this thread has come to it. */
export const ready = () => true;

export { findInThread as find, loadDemo, readIntake, readMail };

({ importBundle, readGrid, loadDemo, find: findInThread, readIntake, readMail, ready }) satisfies Record<ThreadTask, unknown>;
