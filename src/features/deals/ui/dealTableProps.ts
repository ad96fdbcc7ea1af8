import type { FrameView } from "@/ui/frame/view";
import type { CellSetting } from "../columns/column";
import type { Group } from "../table/groups";
import type { DealRow } from "../table/row";
import type { Sort } from "../table/sorts";
import type { Status } from "../table/statuses";

export interface DealTableProps {
	readonly status: Status;
	readonly rows: readonly DealRow[];
	/** null: not grouped */
	readonly groups: readonly Group[] | null;
	readonly columns: readonly string[];
	readonly currency: string;
	readonly frame: FrameView["sentence"];
	readonly selected: ReadonlySet<string>;
	readonly current: string | null;
	readonly sheetOpen: boolean;
	readonly mayMark: boolean;
	readonly sorts: readonly Sort[];
	readonly onSort: (sorts: readonly Sort[]) => void;
	readonly onOpen: (id: string) => void;
	readonly onEdit?: CellSetting["onEdit"];
	readonly onMark: (id: string) => void;
	readonly onMarkAll: (ids: readonly string[], on: boolean) => void;
}
