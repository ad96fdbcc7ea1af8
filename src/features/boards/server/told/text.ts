import { teller } from "./teller";

/** Words of one's own. */
export const textTold = teller({ key: "text", tell: (_, __, { text = "" }) => ({ title: "", says: text.split("\n").filter(Boolean), path: null }) });
