import { behindOf } from "../book";
import { finding } from "../given";
import { madeOf } from "./view";

/** The deals behind a figure of a view. */
export const behind = finding({ steps: () => 1, compute: async (context, given) => behindOf(context, await madeOf(context, given), given.open ?? "") });
