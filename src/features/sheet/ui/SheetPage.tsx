"use client";
import { useMemo, useState } from "react";
import { Button } from "react-bootstrap";
import { useHotkeys } from "react-hotkeys-hook";
import { byCount, plural } from "@/core/words/grammar";
import type { Give } from "@/features/deals/ui/slots";
import { IntakePlace } from "@/features/intake/ui/IntakePlace";
import { GiveDialog } from "@/features/tasks/ui/GiveDialog";
import { money } from "@/ui/format";
import { Lamp } from "@/ui/parts/Lamp";
import { Term } from "@/ui/parts/Term";
import type { SheetView } from "../server/sheetView";
import { Account, AccountName } from "./Account";
import { ClosePlan } from "./ClosePlan";
import { Composer } from "./Composer";
import { DescribeDeal } from "./DescribeDeal";
import { Facts } from "./Facts";
import { LastContact } from "./LastContact";
import { People } from "./People";
import { ProductsAndQuotes } from "./ProductsAndQuotes";
import { Questions } from "./Questions";
import { Since, WhyLit } from "./SheetBody";
import { SheetFiles } from "./SheetFiles";
import { SheetTasks } from "./SheetTasks";
import { Stages } from "./Stages";
import { DealRoundsSlot } from "./slots";
import { Timeline } from "./Timeline";
import { TrailDrawing } from "./TrailDrawing";
import "@/ui/parts/parts.css";
import "@/features/deals/ui/deals.css";
import "./sheet.css";

/** The whole sheet of a deal at its own address: every figure with what it was made of, and everything changed where it stands. */
export function SheetPage({ view }: { view: SheetView }) {
	// Long: one page, its parts in their order.
	const [draft, setDraft] = useState<Give | null>(null);
	const assign = (title: string, flags: string[]) => setDraft({ dealIds: [view.id], title, flags });
	useHotkeys("t", () => assign("", []), { enabled: view.mayAssign && !draft });
	const place = useMemo(() => ({ dealId: view.id }), [view.id]);
	return (
		<IntakePlace place={place} today={view.seen} mayWrite={view.mayNote}>
			<div className="sheet-title">
				<div>
					<h2>
						<Lamp level={view.attention.level} size={28} /> {view.name}
					</h2>
					<p className="second mb-1">
						<AccountName view={view} />
						{view.customer && ` · ${view.customer}`}
						{view.source && ` · source: ${view.source}`}
						{view.competitor ? ` · against ${view.competitor}` : " · no competitor named"}
						{view.outcomeReason && ` · reason: ${view.outcomeReason}`}
						<DescribeDeal view={view} />
					</p>
					<p className="sheet-headline">{view.headline}</p>
				</div>
				<div className="head text-end">{money(view.amount, view.baseCurrency)}</div>
			</div>
			<Facts view={view} keys />
			<div className="sheet-page">
				<div>
					<div className="panel">
						<WhyLit view={view} onAssign={assign} whole />
					</div>
					<div className="panel">
						<Stages view={view} />
					</div>
					<div className="panel">
						<People view={view} />
					</div>
				</div>
				<div>
					<div className="panel">
						<Questions view={view} onTask={assign} />
					</div>
					<div className="panel">
						<Composer view={view} keys />
						<Timeline list={view.happenings} files={view.files} seen={view.seen} past={view.past} mayNote={view.mayNote} />
					</div>
				</div>
				<div>
					<div className="panel">
						<LastContact view={view} />
						<Since view={view} />
						<SheetTasks view={view} />
						<DealRoundsSlot id={view.id} live={!view.past} />
						{view.mayAssign && (
							<Button size="sm" className="mt-2 no-print" onClick={() => assign("", [])}>
								Give a task
							</Button>
						)}
					</div>
					<div className="panel">
						<h3>
							Close date <Term of="trail">trail</Term>
							{trailWords(view)}
						</h3>
						<TrailDrawing view={view} />
					</div>
					<div className="panel">
						<h3>Files and links</h3>
						<SheetFiles view={view} />
					</div>
					<div className="panel">
						<ClosePlan view={view} />
					</div>
					{(view.lines.length > 0 || view.quotes.length > 0 || view.mayEdit) && (
						<div className="panel">
							<ProductsAndQuotes view={view} />
						</div>
					)}
					{view.accountInfo && (
						<div className="panel">
							<Account account={view.accountInfo} seen={view.seen} currency={view.baseCurrency} />
						</div>
					)}
				</div>
			</div>
			{draft && <GiveDialog give={draft} onClose={() => setDraft(null)} />}
		</IntakePlace>
	);
}

function trailWords({ trail }: SheetView): string {
	if (!trail.pushes) return "";
	const crossed = trail.crossings ? `, ${trail.crossings} quarter ${byCount(trail.crossings, "end", "ends")} crossed` : "";
	return `: ${plural(trail.pushes, "push", "pushes")}, ${plural(trail.pushedDays, "calendar day")} in all${crossed}`;
}
