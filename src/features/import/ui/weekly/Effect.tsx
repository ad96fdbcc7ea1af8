import { Button, Form } from "react-bootstrap";
import { byCount, plural } from "@/core/words/grammar";
import type { WeeklyPlan } from "@/formats/weekly/plan";
import { change, longDate, money } from "@/ui/format";
import { Scrolls } from "@/ui/parts/Scrolls";
import { DataTable } from "@/ui/parts/table/DataTable";
import type { Compared, Sums, WeeklyView } from "../../server/weekly/shapes";

interface Props {
	readonly view: WeeklyView;
	readonly onPlan: (change: Partial<WeeklyPlan>) => void;
	readonly onBadRows: () => void;
}

/** What taking the file in would do, or what stands in its way, line by line. */
export function Effect({ view, onPlan, onBadRows }: Props) {
	// Long: one page, its parts in their order.
	const { change: effect } = view;
	if (view.causes.length && !(view.plan.goodOnly && effect)) return <Causes view={view} onPlan={onPlan} onBadRows={onBadRows} />;
	if (!effect) return <p className="second mt-3 mb-0">Answer the open questions above; then the file’s changes are shown here.</p>;
	return (
		<section className="mt-3" aria-label="What would change">
			<h3>
				{effect.fresh} new, {effect.changed} changed, {effect.same} the same, {effect.missing} missing
			</h3>
			<ul className="small-text mb-0">
				{view.sameAs && <li>This exact file was imported for {longDate(view.sameAs)} already.</li>}
				{view.replaces && <li>It replaces {view.replaces}, which is from the same day.</li>}
				{view.addsTo && (
					<li>
						<Form.Check
							id="weekly-adds"
							label={`Add these rows to ${view.addsTo} instead of replacing it`}
							checked={view.plan.adds}
							onChange={(event) => onPlan({ adds: event.target.checked })}
						/>
					</li>
				)}
				{effect.leftOut > 0 && (
					<li>
						{plural(effect.leftOut, "row")} can’t be read and {byCount(effect.leftOut, "is", "are")} left out.{" "}
						<button type="button" className="plain-button text-decoration-underline" onClick={onBadRows}>
							Export bad rows: CSV
						</button>{" "}
						·{" "}
						<button type="button" className="plain-button text-decoration-underline" onClick={() => onPlan({ goodOnly: false })}>
							Show what is wrong
						</button>
					</li>
				)}
				{view.summed.deals > 0 && (
					<li>
						{plural(view.summed.deals, "deal")} {byCount(view.summed.deals, "is", "are")} on {view.summed.lines} lines; their amounts are added up.
					</li>
				)}
				{effect.rounded > 0 && <li>{plural(effect.rounded, "amount")} with more decimals than the currency has, rounded.</li>}
				{view.plan.scale > 0 && <li>Amounts are read in {{ 0: "", 3: "thousands", 6: "millions", 9: "billions" }[view.plan.scale]}.</li>}
				<li>
					{view.before
						? `The previous file is ${view.before.name}, of ${longDate(view.before.day)}.`
						: "This is the first file: everything in it starts on its date."}
				</li>
				{effect.fields.length > 0 && <li>Changes: {effect.fields.map(({ label, count: n }) => `${label.toLowerCase()} in ${n}`).join(", ")}.</li>}
				{effect.missing > 0 && (
					<li>
						{plural(effect.missing, "open deal")} of the previous file {byCount(effect.missing, "is", "are")} not in this one, and will wait for your decision.
					</li>
				)}
				{effect.editedHere > 0 && <li>{plural(effect.editedHere, "deal")} changed here since the previous file; the new file’s values are used.</li>}
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
function Causes({ view, onPlan, onBadRows }: Props) {
	return (
		<section className="mt-3" aria-label="What is wrong">
			<h3>{plural(view.problemCount, "row")} can’t be read</h3>
			{view.goodRows !== null && view.goodRows > 0 && (
				<p className="d-flex gap-2 flex-wrap align-items-center">
					<Button size="sm" variant="outline-primary" onClick={() => onPlan({ goodOnly: true })}>
						Continue with {plural(view.goodRows, "good row")}
					</Button>
					<Button size="sm" variant="link" onClick={onBadRows}>
						Export bad rows: CSV
					</Button>
					<span className="second small-text">Correct them in that file and import it for the same day: its rows can be added.</span>
				</p>
			)}
			<DataTable
				of="Causes"
				className=""
				tableClass="small-text"
				rows={view.causes.slice(0, 50)}
				rowKey={({ column, reason }) => `${column} ${reason}`}
				columns={[
					{ key: "reason", label: "What is wrong", cell: ({ reason }) => reason },
					{ key: "column", label: "Column", by: ({ column }) => column, cell: ({ column }) => column ?? "" },
					{ key: "rows", label: "Rows", num: true, by: ({ count }) => count, cell: ({ count }) => count },
					{ key: "lines", label: "Lines", cell: ({ lines, count }) => `${lines.join(", ")}${count > lines.length ? " …" : ""}` },
					{ key: "values", label: "Such as", className: "problem-value", cell: ({ values }) => values.join(" · ") },
				]}
			/>
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
						<th>{before ? `Against ${before.name}` : "Totals"}</th>
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
