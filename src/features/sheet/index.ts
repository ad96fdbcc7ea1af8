import { capability } from "@/platform/capability";
import { sheetRoutes } from "./server/apiRoutes";
import { addStep, changeStep, removeStep } from "./server/closePlan";
import { addPerson, removePerson, setRole } from "./server/dealPeople";
import { answerQuote, sendQuote } from "./server/dealQuotes";
import { logActivity, settleActivity } from "./server/logActivity";
import { readDeal } from "./server/readDeal";
import { readSheet } from "./server/readSheet";
import { takeBackNote, writeNote } from "./server/writeNote";

export { readSheet } from "./server/readSheet";
export type { SheetView } from "./server/sheetView";

/** One deal with everything behind its figures, and what is written on it. */
export const sheet = capability({
	key: "sheet",
	commands: [writeNote, takeBackNote, logActivity, settleActivity, addStep, changeStep, removeStep, addPerson, removePerson, setRole, sendQuote, answerQuote],
	queries: [readSheet, readDeal],
	api: sheetRoutes,
	keys: [
		{ key: "E", label: "change a field of the deal", on: "/deals/", where: "On a sheet" },
		{ key: "N", label: "write a note", on: "/deals/", where: "On a sheet" },
		{ key: "T", label: "give a task", on: "/deals/", where: "On a sheet" },
		{ key: "Up and Down, on a question", label: "the question before and after", on: "/deals/", where: "On a sheet" },
		{ key: "0 to 4, on a question", label: "answer it: unknown, assumed, heard, shown, against us", on: "/deals/", where: "On a sheet" },
		{ key: "Ctrl Enter", label: "send the note", on: "/deals/", where: "On a sheet" },
	],
});
