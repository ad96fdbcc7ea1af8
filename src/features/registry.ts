import type { z } from "zod";
import type { ApiRoute } from "@/platform/http/apiRoute";
import type { TableFile } from "@/platform/tableFile";
import { accounts } from "./accounts";
import { attached } from "./attachments";
import { beginning } from "./begin";
import { boards } from "./boards";
import { calendars } from "./calendars";
import { changes } from "./changes";
import { closed } from "./closes";
import { deals } from "./deals";
import { desk } from "./desk";
import { evidence } from "./evidence";
import { feeding } from "./feeds";
import { imports } from "./import";
import { intake } from "./intake";
import { patterns } from "./patterns";
import { people } from "./people";
import { period } from "./period";
import { reaching } from "./reaching";
import { rounds } from "./rounds";
import { searching } from "./search";
import { sending } from "./sendings";
import { setup } from "./setup";
import { sheet } from "./sheet";
import { outside } from "./tables";
import { tasks } from "./tasks";
import { hooks } from "./webhooks";

/** Every capability, in the order of the rail. A new one is one line here. */
export const CAPABILITIES = [
	period,
	boards,
	deals,
	evidence,
	changes,
	rounds,
	tasks,
	desk,
	patterns,
	closed,
	accounts,
	setup,
	sheet,
	attached,
	intake,
	imports,
	people,
	reaching,
	sending,
	feeding,
	calendars,
	hooks,
	outside,
	searching,
	beginning,
] as const;

export const COMMANDS = CAPABILITIES.flatMap((capability) => [...capability.commands]);
export const LOOKUPS = CAPABILITIES.flatMap((capability) => [...capability.lookups]);
export const QUERIES = CAPABILITIES.flatMap((capability) => [...capability.queries]);
export const API_ROUTES: readonly ApiRoute[] = CAPABILITIES.flatMap((capability) => [...capability.api]);

/** Tables that can be taken away as files. */
export const FILES: readonly TableFile[] = CAPABILITIES.flatMap((capability) => [...capability.files]);

type Doing = (typeof CAPABILITIES)[number]["commands" | "lookups"][number];
type Called = {
	[D in Doing as D["name"]]: { readonly input: z.input<D["input"]>; readonly result: Awaited<ReturnType<D>> };
};

/** What the browser may have done by name, with what each takes and gives: so the screens' calls are checked by their types. */
declare module "@/ui/run" {
	interface Doings extends Called {}
}

/** What the browser names: commands and lookups that need no file. */
export const OPERATIONS: ReadonlyMap<string, Doing> = new Map(
	[...COMMANDS.filter((command) => !command.server), ...LOOKUPS].map((doing): [string, Doing] => [doing.name, doing as Doing]),
);
