import { capability } from "@/platform/capability";
import { peopleRoutes } from "./server/apiRoutes";
import { endWaysOfGone } from "./server/endWays";
import { previewHandOver } from "./server/handOver/preview";
import { undoHandOver } from "./server/handOver/undo";
import { handOver } from "./server/handOver/write";
import { createKey, listKeys, revokeKey } from "./server/keys";
import { readSignIns, removeTeam, savePerson, saveTeam } from "./server/managePeople";
import { mergePeople, previewMerge } from "./server/mergePeople";
import { changePassword, endSession, offerCodes, readOwnSignIn, switchCodesOff, switchCodesOn } from "./server/ownSignIn";
import { addPasskey, offerPasskey, removePasskey } from "./server/passkeys/own";
import { makePasswordLink } from "./server/passwordLinks";
import { readProvider, saveProvider } from "./server/provider/settings";
import { readPeople } from "./server/readPeople";
import { readDirectory, writeDirectory } from "./server/scim/directory";

export { demoPeople, staysOut } from "./server/demoPeople";
export { storePasswordLink } from "./server/passwordLinks";
export { DEMO_PASSWORD, hashPassword, passwordFault, passwordInput } from "./server/passwords";

/** Who works here and in which team, signing in, and the keys that act for them. */
export const people = capability({
	key: "people",
	commands: [
		createKey,
		revokeKey,
		changePassword,
		endSession,
		switchCodesOn,
		switchCodesOff,
		addPasskey,
		removePasskey,
		savePerson,
		saveTeam,
		removeTeam,
		makePasswordLink,
		mergePeople,
		handOver,
		undoHandOver,
		saveProvider,
		writeDirectory,
	],
	queries: [readPeople, listKeys, readOwnSignIn, readSignIns, readProvider, readDirectory],
	lookups: [offerCodes, offerPasskey, previewMerge, previewHandOver],
	api: peopleRoutes,
	nightly: [{ name: "end-ways", run: endWaysOfGone }],
});
