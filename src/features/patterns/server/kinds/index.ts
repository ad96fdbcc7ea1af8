import type { PatternKind } from "../book";
import { commits } from "./commits";
import { foretell } from "./foretell";
import { price } from "./price";
import { reasons } from "./reasons";
import { sources } from "./sources";
import { stages } from "./stages";
import { tasks } from "./tasks";

/** The views of the past, in the order of their tabs. */
export const PATTERN_KINDS: readonly PatternKind[] = [foretell, commits, stages, reasons, price, tasks, sources];
