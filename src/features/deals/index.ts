import { capability } from "@/platform/capability";
import { dealRoutes } from "./server/apiRoutes";
import { correctAhead } from "./server/datedAhead";
import { editDeals, previewEdit } from "./server/editDeals";
import { exportTable } from "./server/exportTable";
import { listDeals } from "./server/listDeals";
import { goesWithPage, packedDeals } from "./server/packedDeals";
import { countAct, largestDeals, readDeals, someDeals } from "./server/readDeals";
import { undoEdit } from "./server/undoEdit";
import { changeView, openWith, orderViews, readViews, removeView, saveView } from "./server/views";

export { aheadOf } from "./server/datedAhead";
export { type DealJson, dealJson, dealSchema, flagSchema, levelSchema } from "./server/dealJson";
export { type EditChoices, editChoices } from "./server/editChoices";
export { applyEdit, editDeals } from "./server/editDeals";
export { FIELD_ANSWERS } from "./server/fieldSchemas";
export { goesWithPage } from "./server/packedDeals";
export { changeSchema } from "./server/planEdit";
export { carriedDeals, dueBlocks, dueDeals, dueIn, type ListedBlock, listedDeals, readDeals, someDeals } from "./server/readDeals";
export { revertEdits } from "./server/undoEdit";
export { readViews } from "./server/views";
export type { DealRow } from "./table/row";

/** The list a manager lives in: open deals by attention, with views of one's own, and every edit of a deal. */
export const deals = capability({
	key: "deals",
	commands: [editDeals, undoEdit, correctAhead, saveView, changeView, removeView, orderViews, openWith],
	lookups: [previewEdit],
	queries: [readDeals, largestDeals, someDeals, listDeals, packedDeals, goesWithPage, exportTable, readViews],
	api: dealRoutes,
	rail: { path: "/deals", label: "Deals", key: "d", count: { label: "at act", value: countAct } },
	keys: [
		{ key: "J and K", label: "next and previous deal", on: "/deals", where: "In the list of deals" },
		{ key: "Enter", label: "open the sheet of the deal", on: "/deals", where: "In the list of deals" },
		{ key: "X", label: "select the deal", on: "/deals", where: "In the list of deals" },
		{ key: "T", label: "write a task for the selected deals, or for this one", on: "/deals", where: "In the list of deals" },
		{ key: "N", label: "next lit deal, while a sheet is open", on: "/deals", where: "In the list of deals" },
		{ key: "E", label: "change the selected deals, or this one", on: "/deals", where: "In the list of deals" },
		{ key: "Shift and a click on a header", label: "sort by it as well", on: "/deals", where: "In the list of deals" },
	],
});
