import type { Severity } from "@/core/flags/rule";

const WEIGHT: Record<Severity, string> = { 1: "light", 2: "serious", 3: "severe" };

/** A flag in words, in one of three weights; the reason is its tooltip. A fresh one lit since the earlier moment. */
export function FlagChip({ label, severity, reason, fresh = false }: { label: string; severity: Severity; reason?: string; fresh?: boolean }) {
	return (
		<span className={`chip chip-${severity}`} title={reason ? `${label}: ${reason} (${WEIGHT[severity]}${fresh ? ", newly lit" : ""})` : undefined}>
			{label}
			{fresh && <span className="chip-fresh">new</span>}
		</span>
	);
}
