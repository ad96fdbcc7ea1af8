import { plural } from "@/core/time/words";
import { change, longDate, money } from "@/ui/format";
import { Heads, num } from "@/ui/parts/Heads";
import { Scrolls } from "@/ui/parts/Scrolls";
import type { WeeklyView } from "../../server/weekly/look";
import type { Compared, Sums } from "../../server/weekly/sums";

/** What taking the file in would do, or what stands in its way, line by line. */
export function Effect({ view }: { view: WeeklyView }) {
	const { change: effect } = view;
	if (view.causes.length) return <Causes view={view} />;
	if (!effect) return <p className="second mt-3 mb-0">Say what is still open above; then it shows here what would effect.</p>;
	return (
		<section className="mt-3" aria-label="What would change">
			<h3>
				{effect.fresh} new, {effect.changed} changed, {effect.same} the same, {effect.missing} missing
			</h3>
			<ul className="small-text mb-0">
				{view.sameAs && <li>This very file was taken in for {longDate(view.sameAs)} already.</li>}
				{view.replaces && <li>It takes the place of {view.replaces}, which is of the same day.</li>}
				<li>
					{view.before
						? `The file before it is ${view.before.name}, of ${longDate(view.before.day)}.`
						: "It is the first file: everything in it begins on its day."}
				</li>
				{effect.fields.length > 0 && <li>Changes: {effect.fields.map(({ words, count: n }) => `${words.toLowerCase()} in ${n}`).join(", ")}.</li>}
				{effect.missing > 0 && (
					<li>
						{plural(effect.missing, "open deal")} of the file before {effect.missing === 1 ? "is" : "are"} not in this one, and will wait for your decision.
					</li>
				)}
				{effect.editedHere > 0 && <li>{plural(effect.editedHere, "deal")} changed here since the file before; what the file says is taken.</li>}
				{effect.newPeople.length > 0 && (
					<li>
						{plural(effect.newPeople.length, "new rep")}: {effect.newPeople.slice(0, 12).join(", ")}
						{effect.newPeople.length > 12 && " …"}. They can’t sign in until they are given a password.
					</li>
				)}
				{effect.newAccounts > 0 && <li>{plural(effect.newAccounts, "new account")}.</li>}
			</ul>
			<SumsTable sums={effect.sums} before={view.before} />
		</section>
	);
}

/** What is wrong, one cause a line: where, how often, and what would be right. */
function Causes({ view }: { view: WeeklyView }) {
	return (
		<section className="mt-3" aria-label="What is wrong">
			<h3>{plural(view.problemCount, "row")} can’t be read: nothing can be taken in yet</h3>
			<Scrolls of="What it changes">
				<table className="table small-text">
					<Heads of={["What is wrong", "Column", num("Rows"), "Lines", "Such as"]} />
					<tbody>
						{view.causes.slice(0, 50).map((cause) => (
							<tr key={`${cause.column} ${cause.reason}`}>
								<td>{cause.reason}</td>
								<td>{cause.column ?? ""}</td>
								<td className="num">{cause.count}</td>
								<td>
									{cause.lines.join(", ")}
									{cause.count > cause.lines.length && " …"}
								</td>
								<td className="problem-value">{cause.values.join(" · ")}</td>
							</tr>
						))}
					</tbody>
				</table>
			</Scrolls>
			{view.causes.length > 50 && <p className="tiny second">and {view.causes.length - 50} more</p>}
		</section>
	);
}

/** Count and total of the file beside those of the file before, altogether, by stage and by rep. */
function SumsTable({ sums, before }: { sums: Sums; before: WeeklyView["before"] }) {
	const line = (name: string, { before: was, now }: Compared, total = false) => (
		<tr key={name} className={total ? "fw-bold" : ""}>
			<td>{name}</td>
			{was && <td className="num">{was.count}</td>}
			{was && <td className="num">{money(was.amount, sums.currency)}</td>}
			<td className="num">{now.count}</td>
			<td className="num">{money(now.amount, sums.currency)}</td>
			{was && (
				<td className={`num ${now.amount < was.amount ? "worse" : ""}`}>{now.amount === was.amount ? "–" : change(now.amount - was.amount, sums.currency)}</td>
			)}
		</tr>
	);
	return (
		<Scrolls of="What it changes">
			<table className="table small-text weekly-sums mt-2 mb-0">
				<thead>
					<tr>
						<th>{before ? `Against ${before.name}` : "What it comes to"}</th>
						{before && <th className="num">Deals then</th>}
						{before && <th className="num">Amount then</th>}
						<th className="num">Deals</th>
						<th className="num">Amount</th>
						{before && <th className="num">Change</th>}
					</tr>
				</thead>
				<tbody>
					{line("All", sums.total, true)}
					{sums.stages.map((stage) => line(stage.name, stage))}
				</tbody>
				<tbody className="weekly-owners">{sums.owners.slice(0, 30).map((owner) => line(owner.name, owner))}</tbody>
			</table>
			{sums.owners.length > 30 && <p className="tiny second mb-0">and {sums.owners.length - 30} more reps</p>}
		</Scrolls>
	);
}
