import { capability } from "@/platform/capability";
import { peopleCalls } from "./server/calls";
import { createKey, listKeys, revokeKey } from "./server/keys";
import { changePassword, endSession, offerCodes, readOwnSignIn, switchCodesOff, switchCodesOn } from "./server/ownSignIn";
import { readPeople } from "./server/readPeople";

/** Who works here and in which team, signing in, and the keys that act for them. */
export const people = capability({
	key: "people",
	commands: [createKey, revokeKey, changePassword, endSession, switchCodesOn, switchCodesOff],
	queries: [readPeople, listKeys, readOwnSignIn],
	lookups: [offerCodes],
	calls: peopleCalls,
});
