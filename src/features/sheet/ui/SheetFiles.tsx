import { Attachments } from "@/features/attachments/ui/Attachments";
import type { SheetView } from "../server/sheetView";

/** Files and links of the deal. */
export function SheetFiles({ view }: { view: SheetView }) {
	return <Attachments place={{ dealId: view.id }} list={view.files} seen={view.seen} past={view.past} mayWrite={view.mayNote} />;
}
