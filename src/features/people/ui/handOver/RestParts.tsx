"use client";
import { Form } from "react-bootstrap";
import { plural } from "@/core/words/grammar";
import { longDate, money, shortDate } from "@/ui/format";
import { DayField } from "@/ui/parts/DayField";
import { type Choices, ENDS, type Preview, WITH_DEAL } from "./choices";
import { TakerSelect } from "./TakerSelect";

interface Props {
	readonly preview: Preview;
	readonly choices: Choices;
	readonly onChange: (part: Partial<Choices>) => void;
}

/** The last day, and the ways in that end with it. */
export function EndPart({ preview: { name, mayEnd, ways, today }, choices, onChange }: Props) {
	if (!mayEnd || !ways) return <p className="second small-text">When {name} leaves, and when their keys and calendars end, is set by ops.</p>;
	const open = [
		[ways.keys, "key"],
		[ways.calendars, "calendar address"],
		[ways.webhooks, "webhook"],
		[ways.links, "password link"],
		[ways.passkeys, "passkey"],
		[ways.sessions, "session"],
	] as const;
	const words = open.flatMap(([n, what]) => (n ? [n > 1 && what === "calendar address" ? `${n} calendar addresses` : plural(n, what)] : [])).join(", ");
	return (
		<section className="mb-3">
			<Form.Group controlId="over-day" className="mb-2">
				<Form.Label>Last day</Form.Label>
				<DayField className="w-auto" value={choices.lastDay} onDay={(day) => onChange({ lastDay: day })} />
				<Form.Text>
					{choices.lastDay
						? choices.lastDay < today
							? "This day has passed: they can’t sign in, and their access ends at once."
							: `Until ${longDate(choices.lastDay)} they can sign in; after it their access ends automatically.`
						: "Leave empty if they stay."}
				</Form.Text>
			</Form.Group>
			<p className="small-text mb-1">{words ? `Access: ${words}.` : "They have no keys, calendars, links or webhooks, and aren’t signed in."}</p>
			{words && (
				<Form.Check id="over-ways" label="End all of these now" checked={choices.endWays} onChange={(event) => onChange({ endWays: event.target.checked })} />
			)}
		</section>
	);
}

/** Every open task with who takes it: with its deal, or somebody else. */
export function TasksPart({ preview: { tasks, deals, people }, choices, onChange }: Props) {
	if (!tasks.length) return null;
	const theirs = new Set(deals.map(({ id }) => id));
	return (
		<section aria-labelledby="over-tasks" className="mb-3">
			<h3 id="over-tasks">{plural(tasks.length, "open task")}</h3>
			<ul className="rows small-text over-list">
				{tasks.map((task) => (
					<li key={task.id}>
						<span className="over-name">{task.title}</span>
						<span className="second text-nowrap">{task.dueOn ? shortDate(task.dueOn) : "no day"}</span>
						<TakerSelect
							label={`${task.title} goes to`}
							value={choices.tasks[task.id] ?? ""}
							people={people}
							more={[...(task.dealId && theirs.has(task.dealId) ? ([[WITH_DEAL, WITH_DEAL]] as const) : []), ["", "stays"]]}
							onChange={(to) => onChange({ tasks: { ...choices.tasks, [task.id]: to } })}
						/>
					</li>
				))}
			</ul>
		</section>
	);
}

/** Every planned round with what becomes of it. */
export function PlansPart({ preview: { plans, people }, choices, onChange }: Props) {
	if (!plans.length) return null;
	return (
		<section aria-labelledby="over-plans" className="mb-3">
			<h3 id="over-plans">{plural(plans.length, "planned round")}</h3>
			<ul className="rows small-text over-list">
				{plans.map((plan) => (
					<li key={plan.id}>
						<span className="over-name">
							{plan.name}
							{plan.over && <span className="second"> over their own deals</span>}
						</span>
						<TakerSelect
							label={`${plan.name} goes to`}
							value={choices.plans[plan.id] ?? ""}
							people={plan.over ? [] : people.filter(({ manager }) => manager)}
							more={[
								["", "stays"],
								[ENDS, "ends"],
							]}
							onChange={(to) => onChange({ plans: { ...choices.plans, [plan.id]: to } })}
						/>
					</li>
				))}
			</ul>
		</section>
	);
}

const WHAT = [
	["stay", "They keep them"],
	["go", "Give to someone from a day on"],
	["end", "End on a day"],
] as const;

/** What becomes of the targets that reach beyond today. */
export function TargetsPart({ preview: { targets, people, mayMoveTargets }, choices: { targets: chosen }, onChange }: Props) {
	if (!targets.length || !mayMoveTargets) return null;
	const set = (part: Partial<Choices["targets"]>) => onChange({ targets: { ...chosen, ...part } });
	return (
		<section aria-labelledby="over-targets">
			<h3 id="over-targets">{plural(targets.length, "target")}</h3>
			<ul className="rows small-text">
				{targets.map((target) => (
					<li key={`${target.start} ${target.end} ${target.family}`}>
						<span>
							{longDate(target.start)} to {longDate(target.end)}
							{target.family && `, ${target.family}`}
						</span>
						<span className="num">{money(target.amount, target.currency)}</span>
					</li>
				))}
			</ul>
			<div className="d-flex flex-wrap gap-3 align-items-center">
				{WHAT.map(([what, words]) => (
					<Form.Check
						key={what}
						type="radio"
						name="over-targets"
						id={`targets-${what}`}
						label={words}
						checked={chosen.what === what}
						onChange={() => set({ what })}
					/>
				))}
				{chosen.what !== "stay" && <DayField size="sm" className="w-auto" aria-label="From" value={chosen.from} onDay={(day) => set({ from: day })} />}
				{chosen.what === "go" && (
					<TakerSelect label="Targets go to" value={chosen.to} people={people} more={[["", "Choose a person"]]} onChange={(to) => set({ to })} />
				)}
			</div>
			{chosen.what !== "stay" && (
				<p className="small-text second mb-0 mt-1">The part before that day stays theirs, by its share of days; both parts add up to the target.</p>
			)}
		</section>
	);
}
