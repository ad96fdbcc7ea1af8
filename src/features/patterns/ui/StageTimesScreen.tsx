"use client";
import { parseAsString, useQueryState } from "nuqs";
import { Form } from "react-bootstrap";
import { Scrolls } from "@/ui/parts/Scrolls";
import type { StageGrouping, StageTimeView } from "../server/readPatterns";
import "./patterns.css";

const GROUPS: readonly { readonly key: StageGrouping; readonly words: string }[] = [
	{ key: "rep", words: "by rep" },
	{ key: "family", words: "by product family" },
	{ key: "kind", words: "by kind of customer" },
];

/** How long deals stay in each stage: mean of the finished visits, and the median of all, the unfinished counted as such. */
export function StageTimesScreen({ items, by, stages }: { items: readonly StageTimeView[]; by: StageGrouping; stages: readonly string[] }) {
	const [, setBy] = useQueryState("by", parseAsString.withOptions({ shallow: false, history: "replace" }));
	const shown = stages.filter((stage) => items.some((item) => item.stage === stage));
	const groups = [...new Map(items.map(({ group, name }) => [group, name]))].sort(([, a], [, b]) => a.localeCompare(b));
	const slowest = items.filter(({ median }) => median !== null).sort((a, b) => (b.median ?? 0) - (a.median ?? 0))[0];
	return (
		<>
			<h2>
				{slowest
					? `Longest: half of ${slowest.name}’s visits to ${slowest.stage} take ${slowest.median} working days or more`
					: "Too few visits to say how long stages take"}
			</h2>
			<p className="second">
				Visits begun in the last 365 days. The mean is of the finished ones; the median counts those that aren’t finished as lasting at least so long.
			</p>
			<Form.Select size="sm" className="w-auto mb-2" aria-label="Grouped" value={by} onChange={(event) => void setBy(event.target.value)}>
				{GROUPS.map(({ key, words }) => (
					<option key={key} value={key}>
						{words}
					</option>
				))}
			</Form.Select>
			<Scrolls of="Time in stage" className="panel p-0">
				<table className="table mb-0">
					<thead>
						<tr>
							<th scope="col">{by === "rep" ? "Rep" : by === "family" ? "Product family" : "Kind of customer"}</th>
							{shown.map((stage) => (
								<th key={stage} scope="col">
									{stage}
								</th>
							))}
						</tr>
					</thead>
					<tbody>
						{groups.map(([group, name]) => (
							<tr key={group}>
								<th scope="row">{name}</th>
								{shown.map((stage) => (
									<td key={stage}>
										<StageCell item={items.find((one) => one.group === group && one.stage === stage)} />
									</td>
								))}
							</tr>
						))}
					</tbody>
				</table>
			</Scrolls>
		</>
	);
}

const SPAN = 80;

/** Median and mean, with the curve of what goes on; what isn't finished is said beside. */
function StageCell({ item }: { item: StageTimeView | undefined }) {
	if (!item) return <span className="third">·</span>;
	const visits = item.finished + item.unfinished;
	if (item.mean === null && item.median === null) return <span className="third">{visits}: too few</span>;
	const points = [
		"0,0",
		...item.curve.flatMap(({ length, share }, i) => [
			`${Math.min(SPAN, length)},${100 * (1 - (item.curve[i - 1]?.share ?? 1))}`,
			`${Math.min(SPAN, length)},${100 * (1 - share)}`,
		]),
	];
	return (
		<span title={`${item.finished} finished, ${item.unfinished} under way`}>
			<b>{item.median === null ? "not reached" : `${item.median} d`}</b>{" "}
			<span className="tiny second">mean {item.mean === null ? "–" : item.mean.toFixed(1)}</span>
			<svg viewBox={`0 0 ${SPAN} 100`} preserveAspectRatio="none" className="survival" aria-hidden="true">
				<line x1="0" x2={SPAN} y1="50" y2="50" />
				<polyline points={points.join(" ")} />
			</svg>
			<span className="tiny third">
				{item.finished}
				{item.unfinished > 0 && ` and ${item.unfinished} under way`}
			</span>
		</span>
	);
}
