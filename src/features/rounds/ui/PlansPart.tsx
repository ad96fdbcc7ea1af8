"use client";
import { useState } from "react";
import { Button, Form } from "react-bootstrap";
import { nearDate } from "@/ui/format";
import { useRun } from "@/ui/run";
import { useAct } from "@/ui/useAct";
import type { PlanView } from "../server/plans";

interface Props {
	readonly plans: readonly PlanView[];
	readonly mayHold: boolean;
	readonly choices: readonly { readonly key: string; readonly label: string }[];
	readonly today: string;
	readonly whoseKey: string;
}

const DAYS = ["Monday", "Tuesday", "Wednesday", "Thursday", "Friday"];

/** Rounds that come again each week: what is due, and a form to plan another one. */
export function PlansPart({ plans, mayHold, choices, today, whoseKey }: Props) {
	const run = useRun();
	const act = useAct();
	const [making, setMaking] = useState(false);
	const remove = (plan: PlanView) =>
		act(run("rounds.removePlan", { id: plan.id }), "Plan deleted.", () =>
			run("rounds.savePlan", {
				id: null,
				name: plan.name,
				whose: plan.whoseKey,
				weekday: plan.weekday,
				sorted: plan.sorted as "attention",
				calmToo: plan.calmToo,
			}),
		);
	if (!plans.length && !mayHold) return null;
	return (
		<>
			<h2 className="mt-4">Planned</h2>
			<div className="panel">
				{plans.length > 0 && (
					<ul className="rows mb-2">
						{plans.map((plan) => (
							<li key={plan.id}>
								<span>
									<b>{plan.name}</b>
									<span className="d-block tiny second">
										{plan.whose.replace(/’s$/, "")}, every {DAYS[plan.weekday - 1]}; next {plan.due ? "today" : nearDate(plan.next, today)}
									</span>
								</span>
								{mayHold && plan.mayHold && (
									<span className="text-nowrap">
										<button type="button" className="plain-button tiny" onClick={() => void remove(plan)} aria-label={`Delete: ${plan.name}`}>
											Delete
										</button>
									</span>
								)}
							</li>
						))}
					</ul>
				)}
				{mayHold &&
					(making ? (
						<PlanForm choices={choices} whoseKey={whoseKey} onDone={() => setMaking(false)} />
					) : (
						<>
							{!plans.length && (
								<p className="second small-text mb-2">
									A planned round announces its questions the day before, and saves a mark to compare with when it starts.
								</p>
							)}
							<Button size="sm" variant="outline-primary" onClick={() => setMaking(true)}>
								Plan a weekly round
							</Button>
						</>
					))}
			</div>
		</>
	);
}

function PlanForm({ choices, whoseKey, onDone }: Pick<Props, "choices" | "whoseKey"> & { onDone: () => void }) {
	const run = useRun();
	const act = useAct();
	const [whose, setWhose] = useState(choices.some(({ key }) => key === whoseKey) ? whoseKey : (choices[0]?.key ?? whoseKey));
	const [weekday, setWeekday] = useState(1);
	const [name, setName] = useState("");
	const usual = `${DAYS[weekday - 1]}s with ${choices.find(({ key }) => key === whose)?.label ?? "my people"}`;
	const save = async () => {
		const done = await act(run("rounds.savePlan", { id: null, name: name.trim() || usual, whose, weekday }), "Round planned.", ({ id }) =>
			run("rounds.removePlan", { id }),
		);
		if (done) onDone();
	};
	return (
		<form
			className="round-form"
			onSubmit={(event) => {
				event.preventDefault();
				void save();
			}}
		>
			<Form.Select size="sm" aria-label="People" value={whose} onChange={(event) => setWhose(event.target.value)}>
				{choices.map(({ key, label }) => (
					<option key={key} value={key}>
						{label}
					</option>
				))}
			</Form.Select>
			<Form.Select size="sm" aria-label="Day of the week" value={weekday} onChange={(event) => setWeekday(Number(event.target.value))}>
				{DAYS.map((words, i) => (
					<option key={words} value={i + 1}>
						every {words}
					</option>
				))}
			</Form.Select>
			<Form.Control size="sm" aria-label="Name" placeholder={usual} value={name} maxLength={80} onChange={(event) => setName(event.target.value)} />
			<span className="d-flex gap-2">
				<Button size="sm" type="submit">
					Save plan
				</Button>
				<Button size="sm" variant="link" onClick={onDone}>
					Cancel
				</Button>
			</span>
		</form>
	);
}
