import { type ImportOptions, runImport, type Source } from "@/features/import/server/importBundle";
import type { ThreadTask } from "@/platform/threads";

/** What is done in a thread of its own (`inThread`); a new kind is a function here and a name in `ThreadTask`. */
export const importBundle = ({ id, source, options }: { id: string; source: Source; options: ImportOptions }) => runImport(id, source, options);

({ importBundle }) satisfies Record<ThreadTask, unknown>;
