import { Trail } from "@/ui/parts/Trail";
import { column } from "./column";
import { Edit } from "./Edit";

const WIDTH = 108;

export const close = column({
	key: "close",
	words: "Close date trail",
	kind: "day",
	value: (row) => row.close,
	width: `${WIDTH}px`,
	beside: true,
	file: { words: "Close date" },
	cell: (row, setting) => (
		<Edit row={row} field="closeDate" setting={setting}>
			<Trail points={row.trail} span={setting.span} width={WIDTH} />
		</Edit>
	),
});
