import { behind } from "./behind";
import { comparables } from "./comparables";
import { foretelling } from "./foretelling";
import { habits } from "./habits";
import { moved } from "./moved";
import { outlook } from "./outlook";
import { helpFound } from "./taskHelp";
import { view } from "./view";
import { weights } from "./weights";

/** What can be found out of the whole past; each may be done by a thread of its own and kept for the day. */
export const FINDING_KINDS = { view, behind, outlook, comparables, moved, foretelling, weights, habits, taskHelp: helpFound };
export type FindingKind = keyof typeof FINDING_KINDS;
export type { Given } from "../given";
