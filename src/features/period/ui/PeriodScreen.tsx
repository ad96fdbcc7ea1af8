"use client";
import Link from "next/link";
import type { DealRow, EditChoices } from "@/features/deals";
import type { FrameView } from "@/ui/frame/view";
import { TableExport } from "@/ui/parts/ExportMenu";
import { unpacking } from "@/ui/unpacking";
import type { PeriodView } from "../server/readPeriod";
import { figureWords } from "../table/figureWords";
import { Beam } from "./Beam";
import { FigureLine } from "./FigureLine";
import { Groups } from "./Groups";
import { LastDays } from "./LastDays";
import { Lists } from "./Lists";
import { type Days, useOpens } from "./opens";
import { PaceChart } from "./PaceChart";
import { Periods } from "./Periods";
import { Redate } from "./Redate";
import { OutlookSlot } from "./slots";
import { Turn } from "./Turn";
import "@/ui/parts/parts.css";
import "./period.css";

interface Props {
	readonly view: PeriodView;
	readonly frame: FrameView["sentence"];
	/** the write up to which this is known */
	readonly revision: number;
	readonly carried: readonly DealRow[];
	readonly undated: readonly DealRow[];
	/** null: nothing may be changed */
	readonly choices: EditChoices | null;
}

/** The manager's first screen: will we make it, and what decides it? */
export function PeriodScreen({ view, frame, revision, carried, undated, choices }: Props) {
	const days: Days = { from: view.from, to: view.to, seen: frame.seen.day };
	const opens = useOpens(days);
	const redate = { currency: view.currency, today: frame.seen.day, choices };
	return (
		<OutlookSlot revision={revision} wanted={view.state !== "over"} seen={frame.seen.day}>
			{(outlook) => (
				<div className="period">
					<section className="panel period-top">
						<div className="period-says">
							<h2>{view.headline}</h2>
							<div className="no-print text-nowrap">
								{view.maySetTargets && (
									<>
										<Link className="tiny" href="/setup?place=targets">
											Targets
										</Link>{" "}
									</>
								)}
								<TableExport table="period" />
							</div>
						</div>
						<p className="second mb-1">
							{view.beside}{" "}
							{view.figures.target === null && (view.maySetTargets ? <Link href="/setup?place=targets">Set targets</Link> : "Ask your manager to set targets.")}
						</p>
						<Turn view={view} days={days} />
						{outlook.words}
						<PastMarks view={view} days={days} />
						<Beam figures={view.figures} changes={view.change} against={view.againstWords} currency={view.currency} days={days} band={outlook.band} />
						<FigureLine view={view} days={days} />
					</section>
					{view.lastDays && <LastDays view={view.lastDays} days={days} currency={view.currency} chances={outlook.chances} />}
					<div className="period-main">
						<div className="period-left">
							<PaceChart view={view} days={days} band={outlook.band} />
							<Groups view={view} days={days} />
							<Periods view={view} days={days} />
						</div>
						<Lists
							view={view}
							days={days}
							deciding={outlook.deciding}
							redate={
								<>
									{(carried.length > 0 || undated.length > 0) && <h3 className="mt-3">To be re-dated</h3>}
									<Redate label="carried over" rows={carried} href={opens.deals()} {...redate} />
									<Redate label="without a date" rows={undated} href={opens.figure("undated")} {...redate} />
								</>
							}
						/>
					</div>
				</div>
			)}
		</OutlookSlot>
	);
}

/** The figures that passed what is acceptable. */
function PastMarks({ view, days }: { view: PeriodView; days: Days }) {
	const opens = useOpens(days);
	if (!view.past.length) return null;
	return (
		<p className="period-past mb-1">
			Past its mark:{" "}
			{view.past.map((mark, i) => (
				<span key={mark.figure}>
					{i > 0 && "; "}
					<Link href={opens.figure(mark.figure)}>
						{mark.label} {figureWords(mark.has, mark.unit, view.currency)}
					</Link>
					, {mark.side === "most" ? "at most" : "at least"} {figureWords(mark.value, mark.unit, view.currency)} is acceptable
				</span>
			))}
			.
		</p>
	);
}

/** The same, of what the page packed. */
export const PeriodPacked = unpacking(PeriodScreen);

/** Deals without a date, and all time, have no target to be held against. */
export function NoBounds() {
	return (
		<div className="empty">
			<h2>Choose a period with a start and an end</h2>
			<p>Targets and pace need a period with a start and an end. Choose a quarter, a month or two days in the sentence above.</p>
		</div>
	);
}
