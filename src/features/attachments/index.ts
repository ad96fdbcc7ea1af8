import { capability } from "@/platform/capability";
import { attachmentRoutes } from "./server/apiRoutes";
import { attachFile, attachLink, removeAttachment, renameAttachment } from "./server/attach";
import { forgetContents } from "./server/forget";
import { listOfAccount, listOfDeal, readFile } from "./server/readAttachments";

export { keepFiles } from "./server/attach";
export { mediaTypeOf } from "./server/mediaType";
export { type AttachmentView, listOfAccount, listOfDeal, type ProofFiles, proofFilesOf } from "./server/readAttachments";

/** Files and links kept with deals, accounts and activities. */
export const attached = capability({
	key: "attachments",
	commands: [attachFile, attachLink, renameAttachment, removeAttachment],
	queries: [listOfDeal, listOfAccount, readFile],
	api: attachmentRoutes,
	nightly: [forgetContents],
});
