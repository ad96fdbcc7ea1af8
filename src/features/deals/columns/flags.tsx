import { parseDay } from "@/core/time/day";
import { longDay } from "@/core/time/words";
import { FlagChip } from "@/ui/parts/FlagChip";
import { column } from "./column";

export const flags = column({
	key: "flags",
	label: "Flags",
	kind: "text",
	value: (row) => row.flags.map((flag) => flag.label).join(", "),
	width: "minmax(9rem, 1.7fr)",
	least: 150,
	beside: true,
	cell: (row, { most }) => {
		if (row.closedOn !== null) return <span className="second small-text">closed on {longDay(parseDay(row.closedOn) ?? 0)}</span>;
		const rest = row.flags.slice(most).map((flag) => flag.label);
		const fresh = row.flags.filter((flag) => row.newlyLit.includes(flag.code)).map((flag) => flag.label);
		return (
			<span className="c-flag-list">
				{row.flags.slice(0, most).map((flag) => (
					<FlagChip key={flag.code} {...flag} />
				))}
				{rest.length > 0 && (
					<span className="chip chip-more" title={rest.join(", ")}>
						+{rest.length}
						<span className="visually-hidden"> more flags: {rest.join(", ")}</span>
					</span>
				)}
				{fresh.length > 0 && (
					<span className="tiny second align-self-center" title={`newly lit: ${fresh.join(", ")}`}>
						new
					</span>
				)}
			</span>
		);
	},
});
