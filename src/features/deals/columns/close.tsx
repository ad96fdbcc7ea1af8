import { parseDay } from "@/core/time/day";
import { longDay } from "@/core/time/words";
import { Trail } from "@/ui/parts/Trail";
import { column } from "./column";
import { Edit } from "./Edit";

const WIDTH = 108;

const monthWords = (iso: string) => longDay(parseDay(iso) ?? 0).replace(/^\d+ /, "");

export const close = column({
	key: "close",
	label: "Close date trail",
	means: "trail",
	kind: "day",
	value: (row) => row.close,
	width: `${WIDTH}px`,
	beside: true,
	file: { label: "Close date" },
	grouping: {
		key: "month",
		label: "close month",
		value: (row) => (row.close ? monthWords(row.close) : "No close date"),
		rank: (row) => (row.close ? Number(row.close.slice(0, 7).replace("-", "")) : Number.MAX_SAFE_INTEGER),
	},
	cell: (row, setting) => (
		<Edit row={row} field="closeDate" setting={setting}>
			<Trail points={row.trail} span={setting.span} width={WIDTH} />
		</Edit>
	),
});
