"use client";
import { useNotice } from "@/ui/Notices";
import { type Result, useRun } from "@/ui/run";
import { useRefresh } from "@/ui/useAct";

/** What follows an edit: the figures are read again, and a notice offers to undo it. */
export function useEdited(): (deals: Result<"deals.edit">) => void {
	const notice = useNotice();
	const run = useRun();
	const refresh = useRefresh();
	return (deals) => {
		const changed = deals.filter((deal) => deal.differences.length);
		refresh();
		const [only] = changed;
		if (!only) return notice({ words: "No field was different, so nothing was saved." });
		const words =
			changed.length === 1
				? `${only.name}: ${only.differences.map((d) => `${d.field.toLowerCase()} ${d.before} → ${d.after}`).join("; ")}.`
				: `${changed.length} deals saved.`;
		notice({
			words,
			undo: async () => {
				const back = await run("deals.undoEdit", { targets: changed.map(({ id, versionId }) => ({ id, versionId })) });
				refresh();
				notice({ words: back.ok ? "Undone." : back.detail });
			},
		});
	};
}
