import { capability } from "@/platform/capability";
import { closeRoutes } from "./server/apiRoutes";
import { closeByItself } from "./server/byItself";
import { closePeriod, correctClose, reopenPeriod, writeCloseNote } from "./server/closePeriod";
import { closeFile } from "./server/files";
import { listCloses, readClose, readCloseById } from "./server/readClose";

export { closeFile } from "./server/files";
export { closePicture } from "./server/picture";
export { readClose } from "./server/readClose";
export { closedSince, closeWords } from "./server/told";

/** How a period ended: an account of it that is kept, sealed, and never changes but by a marked correction. */
export const closed = capability({
	key: "closes",
	files: [closeFile],
	commands: [closePeriod, correctClose, writeCloseNote, reopenPeriod],
	queries: [readClose, listCloses, readCloseById],
	api: closeRoutes,
	nightly: [{ name: "close-periods", run: closeByItself }],
});
