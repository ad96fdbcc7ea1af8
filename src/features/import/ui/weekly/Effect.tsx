import { plural } from "@/core/time/words";
import { longDate } from "@/ui/format";
import type { WeeklyView } from "../../server/weekly/look";

/** What taking the file in would do, or what stands in its way, line by line. */
export function Effect({ view }: { view: WeeklyView }) {
	const { change } = view;
	if (view.problemCount > 0)
		return (
			<section className="mt-3" aria-label="What is wrong">
				<h3>{plural(view.problemCount, "problem")}: nothing can be taken in yet</h3>
				<div className="table-scroll">
					<table className="table small-text">
						<thead>
							<tr>
								<th className="num">Line</th>
								<th>Column</th>
								<th>Value</th>
								<th>What is wrong</th>
							</tr>
						</thead>
						<tbody>
							{view.problems.slice(0, 50).map((problem, i) => (
								<tr key={`${problem.line} ${problem.column} ${i}`}>
									<td className="num">{problem.line ?? ""}</td>
									<td>{problem.column ?? ""}</td>
									<td className="problem-value">{problem.value ?? ""}</td>
									<td>{problem.reason}</td>
								</tr>
							))}
						</tbody>
					</table>
				</div>
				{view.problemCount > 50 && <p className="tiny second">and {view.problemCount - 50} more</p>}
			</section>
		);
	if (!change) return <p className="second mt-3 mb-0">Say what is still open above; then it shows here what would change.</p>;
	return (
		<section className="mt-3" aria-label="What would change">
			<h3>
				{change.fresh} new, {change.changed} changed, {change.same} the same, {change.missing} missing
			</h3>
			<ul className="small-text mb-0">
				{view.sameAs && <li>This very file was taken in for {longDate(view.sameAs)} already.</li>}
				{view.replaces && <li>It takes the place of {view.replaces}, which is of the same day.</li>}
				<li>
					{view.before
						? `The file before it is ${view.before.name}, of ${longDate(view.before.day)}.`
						: "It is the first file: everything in it begins on its day."}
				</li>
				{change.fields.length > 0 && <li>Changes: {change.fields.map(({ words, count: n }) => `${words.toLowerCase()} in ${n}`).join(", ")}.</li>}
				{change.missing > 0 && (
					<li>
						{plural(change.missing, "open deal")} of the file before {change.missing === 1 ? "is" : "are"} not in this one, and will wait for your decision.
					</li>
				)}
				{change.editedHere > 0 && <li>{plural(change.editedHere, "deal")} changed here since the file before; what the file says is taken.</li>}
				{change.newPeople.length > 0 && (
					<li>
						{plural(change.newPeople.length, "new rep")}: {change.newPeople.slice(0, 12).join(", ")}
						{change.newPeople.length > 12 && " …"}. They can’t sign in until they are given a password.
					</li>
				)}
				{change.newAccounts > 0 && <li>{plural(change.newAccounts, "new account")}.</li>}
			</ul>
		</section>
	);
}
