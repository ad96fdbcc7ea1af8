import { capability } from "@/platform/capability";
import { dealsWithText, search } from "./server/search";

export { dealsWithText } from "./server/search";

/** Finding deals, accounts, people of the buyer's and words, among what one reaches. */
export const searching = capability({ key: "search", lookups: [search, dealsWithText] });
