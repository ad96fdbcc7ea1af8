import { plural } from "@/core/words/grammar";
import { longDate, shortDate } from "@/ui/format";
import { StageBar } from "@/ui/parts/Bars";
import type { SheetView } from "../server/sheetView";

/** Each visit to a stage against what is usual there; a stage that was visited again says which time it is. */
export function Stages({ view }: { view: SheetView }) {
	const times = new Map<string, number>();
	return (
		<section>
			<h3>Stages, in working days against usual</h3>
			<ul className="rows small-text">
				{view.visits.map((visit) => {
					const time = (times.get(visit.stage) ?? 0) + 1;
					times.set(visit.stage, time);
					return (
						<li
							key={visit.stage + visit.from}
							title={`${longDate(visit.from)} to ${longDate(visit.to)}; usual ${visit.usual}, ${visit.most} at most ${visit.limit} (${visit.measured ? `measured on ${visit.sample} visits` : "as configured"})`}
						>
							<span>
								{visit.stage}
								{time > 1 && <b className="worse"> again, {time}×</b>}
								<span className="tiny third"> from {shortDate(visit.from)}</span>
							</span>
							<span className="d-flex gap-2 align-items-center">
								<StageBar days={visit.length} usual={visit.usual} limit={visit.limit} most={visit.most} stage={visit.stage} width={72} />
								<span className="num">
									{visit.length} d <span className="third">/ {Math.round(visit.usual)}</span>
								</span>
							</span>
						</li>
					);
				})}
			</ul>
			<p className="tiny second mb-0 mt-1">
				Open for {view.dealAge} working days, since {longDate(view.created)}, in {plural(view.visits.length, "visit")} to stages.
			</p>
		</section>
	);
}
