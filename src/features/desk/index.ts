import { countDue } from "@/features/tasks";
import { capability } from "@/platform/capability";
import { readMentions } from "./server/readMentions";

/** A rep's own page: what is due, what is lit and why, who called on them. */
export const desk = capability({
	key: "desk",
	queries: [readMentions],
	rail: { path: "/desk", label: "My desk", key: "m", count: { label: "due", value: countDue } },
});
