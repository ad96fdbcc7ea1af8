import { createLoader, parseAsArrayOf, parseAsBoolean, parseAsString, parseAsStringLiteral } from "nuqs/server";
import { STANDARD_COLUMNS } from "../columns";
import { GROUPINGS } from "./groups";
import { STATUSES } from "./statuses";

const list = parseAsArrayOf(parseAsString, ";");
/** How a table of deals is asked for in an address. */
export const TABLE_PARSERS = {
	flags: parseAsArrayOf(parseAsString).withDefault([]),
	/** whether a deal must carry any of the flags, or all */
	how: parseAsStringLiteral(["any", "all"]).withDefault("any"),
	/** only what lit, or went out, since the earlier moment */
	since: parseAsStringLiteral(["lit", "out"]),
	f: list.withDefault([]),
	/** which deals: open, won or lost */
	status: parseAsStringLiteral(STATUSES).withDefault("open").withOptions({ shallow: false }),
	sort: parseAsArrayOf(parseAsString).withDefault([]),
	cols: parseAsArrayOf(parseAsString).withDefault([...STANDARD_COLUMNS]),
	group: parseAsStringLiteral(GROUPINGS.map((grouping) => grouping.key)),
	text: parseAsString.withDefault(""),
	/** drawn over the table */
	drawn: parseAsBoolean.withDefault(false),
	/** the saved view this started from */
	view: parseAsString,
};

/** Reads how a table is asked for, of an address or of a saved view. */
export const readAsked = createLoader(TABLE_PARSERS);
