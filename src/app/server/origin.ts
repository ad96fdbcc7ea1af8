import type { Origin } from "@/features/people/server/signIn";
import { SOURCE_HEADER } from "@/platform/http/source";

/** Where a request comes from. */
export const originOf = (head: Headers): Origin => ({ source: head.get(SOURCE_HEADER) ?? "direct", agent: head.get("user-agent") ?? "" });
