"use client";
import { Form } from "react-bootstrap";
import { plural } from "@/core/words/grammar";
import { FlagRecordLine } from "@/features/patterns/ui/FlagRecordLine";
import type { RuleView } from "../../server/flagSettings";
import type { Draft } from "./draft";
import { Setting } from "./RuleSetting";

interface LineProps {
	readonly rule: RuleView;
	readonly own: Draft[string];
	readonly stages: readonly string[];
	readonly currency: string;
	readonly mayChange: boolean;
	readonly open: boolean;
	readonly onOpen: () => void;
	readonly set: (stage: string | null, name: string, value: unknown) => void;
}

export function RuleLine({ rule, own, stages, currency, mayChange, open, onOpen, set }: LineProps) {
	const inStages = Object.keys(own.stages ?? {}).length;
	return (
		<fieldset className="rule" disabled={!mayChange} aria-label={rule.name}>
			<div className="rule-head">
				<Form.Check
					type="switch"
					id={`rule-${rule.code}`}
					label={<b>{rule.name}</b>}
					checked={own.on !== false}
					onChange={(event) => set(null, "on", event.target.checked ? undefined : false)}
				/>
				<span className="second small-text">
					{rule.about}
					<FlagRecordLine code={rule.code} className="tiny" />
				</span>
				<span className="num small-text" title="open deals on which it fires today">
					{rule.off ?? `${rule.lit} lit`}
				</span>
			</div>
			<div className="rule-settings">
				{rule.settings.map((spec) => (
					<Setting
						key={spec.name}
						id={`${rule.code}-${spec.name}`}
						spec={spec}
						value={own[spec.name]}
						currency={currency}
						onChange={(value) => set(null, spec.name, value)}
					/>
				))}
				<button type="button" className="plain-button small-text second" aria-expanded={open} onClick={onOpen}>
					{inStages ? `different in ${plural(inStages, "stage")}` : "different by stage"} {open ? "▴" : "▾"}
				</button>
			</div>
			{open && <StageSettings rule={rule} own={own} stages={stages} currency={currency} set={set} />}
		</fieldset>
	);
}

/** A rule’s settings in each stage, where they differ from those everywhere. */
function StageSettings({ rule, own, stages, currency, set }: Pick<LineProps, "rule" | "own" | "stages" | "currency" | "set">) {
	return (
		<table className="table stage-settings">
			<thead>
				<tr>
					<th>Stage</th>
					<th>Rule</th>
					{rule.settings.map((spec) => (
						<th key={spec.name}>{spec.label}</th>
					))}
				</tr>
			</thead>
			<tbody>
				{stages.map((stage) => {
					const there = (own.stages?.[stage] ?? {}) as Record<string, unknown>;
					return (
						<tr key={stage}>
							<td>{stage}</td>
							<td>
								<Form.Select
									size="sm"
									aria-label={`${rule.name} in ${stage}`}
									value={there.on === undefined ? "" : there.on ? "on" : "off"}
									onChange={(event) => set(stage, "on", event.target.value === "" ? undefined : event.target.value === "on")}
								>
									<option value="">same as everywhere</option>
									<option value="on">on</option>
									<option value="off">off</option>
								</Form.Select>
							</td>
							{rule.settings.map((spec) => (
								<td key={spec.name}>
									<Setting
										id={`${rule.code}-${spec.name}-${stage}`}
										spec={spec}
										value={there[spec.name]}
										currency={currency}
										bare
										hint={own[spec.name]}
										onChange={(value) => set(stage, spec.name, value)}
									/>
								</td>
							))}
						</tr>
					);
				})}
			</tbody>
		</table>
	);
}
