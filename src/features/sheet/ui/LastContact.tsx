import { byCount } from "@/core/words/grammar";
import { nearDate } from "@/ui/format";
import type { SheetView } from "../server/sheetView";

/** When the buyer was last spoken to, and who waits for whom. */
export function LastContact({ view }: { view: SheetView }) {
	const days = (n: number) => (n === 0 ? "today" : `${n} working ${byCount(n, "day", "days")} ago`);
	return (
		<section>
			<h3>Last contact</h3>
			<p className="small-text mb-0">
				{view.lastTouch === null ? (
					"No contact yet."
				) : (
					<>
						{nearDate(view.lastTouch, view.seen)}, {days(view.lastTouchDays ?? 0)}.{" "}
					</>
				)}
				{view.waiting ? view.waiting.side === "they" ? <b>They are waiting for us.</b> : "We are waiting for them." : view.lastTouch && "No one is waiting."}
			</p>
		</section>
	);
}
