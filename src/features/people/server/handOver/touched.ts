import type { ChangeSet } from "@/data/store/changeLog";

/** What others read again of a handing over: its deals, those of its tasks, and the frame with people, targets and tasks of no deal. */
export const touchedBy = (given: readonly ({ readonly id: string } | { readonly dealId: string | null })[]): ChangeSet => ({
	deals: [...new Set(given.flatMap((one) => ("dealId" in one ? (one.dealId ?? []) : one.id)))],
	parts: ["settings"],
});
