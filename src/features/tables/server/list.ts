import type { OutsideTable } from "./table";
import { deals } from "./tables/deals";
import { figures } from "./tables/figures";
import { flags } from "./tables/flags";
import { states } from "./tables/states";
import { tasks } from "./tables/tasks";

/** What other programs may read. A new table is one line here. */
export const TABLES: readonly OutsideTable[] = [deals, states, flags, figures, tasks];
