import type { Severity } from "@/core/flags/settings";

const WEIGHT: Record<Severity, string> = { 1: "light", 2: "serious", 3: "severe" };

/** A flag in words, in one of three weights; the reason is its tooltip. Its days are working days, which the tooltip says in full. */
export function FlagChip({ label, severity, reason }: { label: string; severity: Severity; reason?: string }) {
	return (
		<span className={`chip chip-${severity}`} title={reason ? `${label}: ${reason} (${WEIGHT[severity]})` : undefined}>
			{label}
		</span>
	);
}
