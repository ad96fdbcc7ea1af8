import { capability } from "@/platform/capability";
import { endSending, readSendings, saveSending } from "./server/sendings";
import { writeSendings } from "./server/write";

/** What is sent by itself, on a rhythm, to people within their own reach. */
export const sending = capability({
	key: "sendings",
	commands: [saveSending, endSending],
	queries: [readSendings],
	often: [{ name: "write-sendings", afterWrites: false, run: writeSendings }],
});
