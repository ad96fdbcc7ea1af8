"use client";
import { useEffect, useMemo, useState } from "react";
import { Alert, Button, Form } from "react-bootstrap";
import { exponentOf } from "@/core/money/currency";
import { byCount, plural, someOf } from "@/core/words/grammar";
import { FlagRecordLine } from "@/features/patterns/ui/FlagRecordLine";
import { PastWeights } from "@/features/patterns/ui/PastWeights";
import { instantDay } from "@/ui/format";
import { useRun } from "@/ui/run";
import { undone, useAct } from "@/ui/useAct";
import type { FlagsView, Levels, RuleView, SettingsEffect } from "../server/flagSettings";

interface Props {
	readonly view: FlagsView;
	readonly mayChange: boolean;
	readonly currency: string;
	readonly zone: string;
}

type Attention = FlagsView["attention"]["set"];
type Draft = Record<string, { on?: boolean; stages?: Record<string, Record<string, unknown>>; [name: string]: unknown }>;

/** Every rule with its settings, for the organisation and for single stages. Says what a change would do before it is made. */
export function FlagsPanel({ view, mayChange, currency, zone }: Props) {
	const saved = useMemo(() => JSON.stringify({ flags: view.set, attention: view.attention.set }), [view]);
	const [{ flags: draft, attention }, setWish] = useState<Wish>(() => JSON.parse(saved));
	const setDraft = (make: (now: Draft) => Draft) => setWish((now) => ({ ...now, flags: make(now.flags) }));
	const [open, setOpen] = useState<string | null>(null);
	const run = useRun();
	const act = useAct();
	const discard = () => setWish(JSON.parse(saved));
	useEffect(() => setWish(JSON.parse(saved)), [saved]);
	const text = JSON.stringify({ flags: draft, attention });
	const changed = text !== saved;
	const { effect, error } = useEffectOf(text, changed && mayChange);

	/** A setting of a rule, or of a rule in a stage; undefined takes it out again. */
	const set = (code: string, stage: string | null, name: string, value: unknown) =>
		setDraft((now) => {
			const next = structuredClone(now);
			const rule = next[code] ?? {};
			next[code] = rule;
			let place: Record<string, unknown> = rule;
			if (stage !== null) {
				rule.stages ??= {};
				rule.stages[stage] ??= {};
				place = rule.stages[stage] as Record<string, unknown>;
			}
			if (value === undefined) delete place[name];
			else place[name] = value;
			if (stage !== null && !Object.keys(place).length) delete rule.stages?.[stage];
			if (rule.stages && !Object.keys(rule.stages).length) delete rule.stages;
			if (!Object.keys(rule).length) delete next[code];
			return next;
		});
	const save = () =>
		act(run("setup.saveFlags", { flags: draft, attention }), "Flag settings saved.", (done) =>
			undone(run("setup.undoFlags", { change: done.change }), discard),
		);

	return (
		<div className="flags-panel">
			<p className="second">
				These settings decide when each flag fires, on every deal, in lists, sheets and the API, also for past days.
				{view.changed && ` Changed last by ${view.changed.by} on ${instantDay(view.changed.at, zone)}.`}
				{!mayChange && " Ops can change them."}
			</p>
			<AttentionLine view={view} own={attention} currency={currency} mayChange={mayChange} set={(next) => setWish((now) => ({ ...now, attention: next }))} />
			{mayChange && <PastWeights />}
			<div className="panel p-0">
				{view.rules.map((rule) => (
					<RuleLine
						key={rule.code}
						rule={rule}
						own={draft[rule.code] ?? {}}
						stages={view.stages}
						currency={currency}
						mayChange={mayChange}
						open={open === rule.code}
						onOpen={() => setOpen(open === rule.code ? null : rule.code)}
						set={(stage, name, value) => set(rule.code, stage, name, value)}
					/>
				))}
			</div>
			{changed && mayChange && (
				<div className="setup-bar" role="status">
					<div>
						{error ? (
							<Alert variant="danger" className="small-text">
								{error}
							</Alert>
						) : effect ? (
							<EffectWords effect={effect} />
						) : (
							<span className="second">Computing the effect …</span>
						)}
					</div>
					<div className="d-flex gap-2">
						<Button variant="link" onClick={discard}>
							Discard
						</Button>
						<Button disabled={!effect} onClick={() => void save()}>
							Save flag settings
						</Button>
					</div>
				</div>
			)}
		</div>
	);
}

interface Wish {
	readonly flags: Draft;
	readonly attention: Attention;
}

interface AttentionProps {
	readonly view: FlagsView;
	readonly own: Attention;
	readonly currency: string;
	readonly mayChange: boolean;
	readonly set: (next: Attention) => void;
}

/** From which score a deal is at a level, and how heavy flags weigh; with how many deals each level holds today. */
function AttentionLine({ view, own, currency, mayChange, set }: AttentionProps) {
	const { settings, levels } = view.attention;
	return (
		<fieldset className="panel p-0 mb-3" disabled={!mayChange} aria-label="Attention">
			<div className="rule">
				<div className="rule-head">
					<b>attention</b>
					<span className="second small-text">
						0 to 100, the combined weight of a deal’s flags, by its amount and how close its close date is; a deal with a heavy flag is at least at watch. Today{" "}
						{levelWords(levels)}.
					</span>
				</div>
				<div className="rule-settings">
					{settings.map((spec) => (
						<Setting
							key={spec.name}
							id={`attention-${spec.name}`}
							spec={spec}
							value={own[spec.name as keyof Attention]}
							currency={currency}
							onChange={(value) => {
								const { [spec.name as keyof Attention]: _, ...rest } = own;
								set(value === undefined ? rest : { ...rest, [spec.name]: value });
							}}
						/>
					))}
				</div>
			</div>
		</fieldset>
	);
}

const levelWords = (levels: Levels) => `${levels.act} at act, ${levels.watch} at watch, ${levels.calm} calm`;

/** What the settings would do, looked at a moment after they were typed; not while nothing is wished. */
function useEffectOf(text: string, wished: boolean) {
	const [effect, setEffect] = useState<SettingsEffect | null>(null);
	const [error, setError] = useState<string | null>(null);
	const run = useRun();
	useEffect(() => {
		setError(null);
		setEffect(null);
		if (!wished) return;
		let old = false;
		const timer = setTimeout(async () => {
			const answer = await run("setup.previewFlags", JSON.parse(text));
			if (old) return;
			if (answer.ok) setEffect(answer.result);
			else setError(answer.detail);
		}, 350);
		return () => {
			old = true;
			clearTimeout(timer);
		};
	}, [text, wished, run]);
	return { effect, error };
}

/** `Slipped: 22 deals now, 14 then: these 9 clear, this 1 lights.` */
function EffectWords({ effect }: { effect: SettingsEffect }) {
	const names = (list: readonly { id: string; name: string }[]) => list.map((deal) => deal.name).join(", ");
	return (
		<>
			<b>
				{levelWords(effect.before)} now; {levelWords(effect.after)} then.
			</b>
			{effect.flags.length === 0 && <span className="second"> Today no flag would light or clear.</span>}
			<ul className="effects">
				{effect.flags.map((flag) => (
					<li key={flag.code}>
						<b>{flag.name}</b>: {flag.before} now, {flag.after} then
						{flag.out.length > 0 && (
							<>
								; <span title={names(flag.out)}>{byCount(flag.out.length, "this 1 clears", `these ${flag.out.length} clear`)}</span>:{" "}
								<span className="second">{shortList(flag.out)}</span>
							</>
						)}
						{flag.lights.length > 0 && (
							<>
								; <span title={names(flag.lights)}>{byCount(flag.lights.length, "this 1 lights", `these ${flag.lights.length} light`)}</span>:{" "}
								<span className="second">{shortList(flag.lights)}</span>
							</>
						)}
					</li>
				))}
			</ul>
		</>
	);
}

const shortList = (list: readonly { name: string }[]) =>
	someOf(
		list.map((deal) => deal.name),
		3,
	);

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

function RuleLine({ rule, own, stages, currency, mayChange, open, onOpen, set }: LineProps) {
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
			{open && (
				<table className="table stage-settings">
					<thead>
						<tr>
							<th>Stage</th>
							<th>Rule</th>
							{rule.settings.map((spec) => (
								<th key={spec.name}>{spec.words}</th>
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
			)}
		</fieldset>
	);
}

interface SettingProps {
	readonly id: string;
	readonly spec: RuleView["settings"][number];
	readonly value: unknown;
	readonly currency: string;
	readonly bare?: boolean;
	/** what holds where this is left blank */
	readonly hint?: unknown;
	readonly onChange: (value: number | undefined) => void;
}

/** A number by a rule's own description; blank means its standard. Amounts are typed in whole units. */
function Setting({ id, spec, value, currency, bare = false, hint, onChange }: SettingProps) {
	const { money } = spec;
	const per = money ? 10 ** (exponentOf(currency) ?? 2) : 1;
	const shown = typeof value === "number" ? String(value / per) : "";
	const standard = typeof hint === "number" ? hint / per : spec.standard === null ? "from the data" : spec.standard / per;
	const bad = typeof value === "number" && (value < spec.min || value > spec.max);
	const label = `${spec.words}, in ${money ? currency : spec.unit}`;
	const field = spec.choices ? (
		<Form.Select
			size="sm"
			id={id}
			className="setting"
			aria-label={label}
			value={typeof value === "number" ? value : ""}
			onChange={(event) => onChange(event.target.value === "" ? undefined : Number(event.target.value))}
		>
			<option value="">{standard}</option>
			{spec.choices
				.filter((choice) => choice !== standard)
				.map((choice) => (
					<option key={choice} value={choice}>
						{choice}
					</option>
				))}
		</Form.Select>
	) : (
		<Form.Control
			size="sm"
			type="number"
			id={id}
			className="setting"
			aria-label={label}
			step={spec.max <= 1 ? 0.01 : undefined}
			placeholder={String(standard)}
			value={shown}
			min={spec.min / per}
			max={spec.max / per}
			isInvalid={bad}
			onChange={(event) => onChange(event.target.value === "" ? undefined : Number(event.target.value) * per)}
		/>
	);
	if (bare) return field;
	return (
		<label className="setting-line small-text" htmlFor={id}>
			{spec.words} {field} <span className="second">{money ? currency : spec.unit}</span>
		</label>
	);
}
