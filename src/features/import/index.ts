import { capability } from "@/platform/capability";
import { importRoutes } from "./server/apiRoutes";
import { exportBundle } from "./server/exportBundle";
import { listImports, readImport, registerImport, runImport } from "./server/importBundle";
import { pushRows } from "./server/push/pushRows";
import { previewTakeOutBundle, readNewest, takeOutBundle } from "./server/takeOutBundle";
import { decideMissing, listWeekly } from "./server/weekly/missing";
import { badRowsOf, previewWeekly, takeWeekly } from "./server/weekly/take";
import { previewTakeOut, takeOutWeekly } from "./server/weekly/takeOut";

export { importFile } from "./server/importFile";
export { runImport };

/** How data comes in and goes out: the bundle, and weekly exports. */
export const imports = capability({
	key: "import",
	commands: [registerImport, takeWeekly, takeOutWeekly, takeOutBundle, decideMissing, exportBundle, pushRows],
	queries: [listImports, readImport, readNewest, listWeekly, previewWeekly, badRowsOf],
	lookups: [previewTakeOut, previewTakeOutBundle],
	api: importRoutes,
});
