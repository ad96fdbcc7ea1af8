import { capability } from "@/platform/capability";
import { tableRoutes } from "./server/apiRoutes";
import { keepTables, readKept } from "./server/keepTables";
import { listTables, readTable } from "./server/readTable";

/** Tables that other programs read: as files over the API, as views in the database. */
export const outside = capability({
	key: "tables",
	queries: [listTables, readTable, readKept],
	api: tableRoutes,
	often: [{ name: "keep-tables", afterWrites: false, run: keepTables }],
});
