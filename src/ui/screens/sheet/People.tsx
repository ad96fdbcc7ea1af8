import type { SheetView } from "@/usecases/sheet/readSheet";
import { nearDate, spaced } from "../../format";

/** Who is on the buyer's side, under whom, and when each was last spoken to; and who is missing. */
export function People({ view }: { view: SheetView }) {
	return (
		<section>
			<h3>People</h3>
			<ul className="rows small-text">
				{view.people.map((person) => (
					<li key={person.id}>
						<span style={{ paddingLeft: `${person.depth * 0.9}rem` }}>
							{person.depth > 0 && <span aria-hidden="true">└ </span>}
							<b>{person.name}</b>{" "}
							<span className="second">
								{person.title}
								{person.role && ` · ${person.role === "decision_maker" ? "signs" : spaced(person.role)}`}
							</span>
							{person.depth > 0 && <span className="visually-hidden"> reports to {view.people.find((p) => p.id === person.reportsTo)?.name}</span>}
						</span>
						<span className={`text-nowrap tiny ${person.last ? "second" : "worse"}`}>{person.last ? nearDate(person.last, view.seen) : "never spoken to"}</span>
					</li>
				))}
				{view.missing.map((role) => (
					<li key={role} className="worse">
						<span>
							<b>Nobody yet</b> {role}
						</span>
					</li>
				))}
			</ul>
		</section>
	);
}
