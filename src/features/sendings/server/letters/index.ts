import { boardLetter } from "./board";
import { changesLetter } from "./changes";
import { closeLetter } from "./close";
import type { LetterKind } from "./letter";
import { minutesLetter } from "./minutes";
import { outlookLetter } from "./outlook";
import { periodLetter } from "./period";
import { tasksLetter } from "./tasks";
import { viewLetter } from "./view";

/** What can be sent by itself, as it is listed. A new kind is one file and one line here. */
export const LETTERS: readonly LetterKind[] = [periodLetter, changesLetter, outlookLetter, closeLetter, viewLetter, boardLetter, tasksLetter, minutesLetter];
