"use client";
import { useEffect, useMemo, useState } from "react";
import { Button, Form } from "react-bootstrap";
import { useRun } from "@/ui/run";
import { undone, useAct } from "@/ui/useAct";
import type { Habits } from "../server/habitSettings";

/** Which kinds of activity belong to which stage, why deals are lost, and how long a silence is. */
export function HabitsForm({ habits, stages, mayChange }: { habits: Habits; stages: readonly string[]; mayChange: boolean }) {
	const saved = useMemo(() => JSON.stringify(habits), [habits]);
	const [draft, setDraft] = useState<Habits>(() => JSON.parse(saved));
	useEffect(() => setDraft(JSON.parse(saved)), [saved]);
	const run = useRun();
	const act = useAct();
	const wish = { ...draft, reasons: draft.reasons.map((reason) => reason.trim()).filter(Boolean) };
	const changed = JSON.stringify(wish) !== saved;
	return (
		<fieldset disabled={!mayChange} className="habits">
			<Kinds draft={draft} stages={stages} mayChange={mayChange} setDraft={setDraft} />
			<div className="panel">
				<h3>Why deals are lost</h3>
				<Form.Control
					as="textarea"
					rows={6}
					aria-label="Reasons, one per line"
					value={draft.reasons.join("\n")}
					onChange={(event) => setDraft({ ...draft, reasons: event.target.value.split("\n") })}
				/>
				<p className="tiny second mb-0 mt-1">One per line. The person who marks a deal as lost chooses one.</p>
				<Returns draft={draft} set={(returns) => setDraft({ ...draft, returns })} />
				<h3 className="mt-3">Goal of commits</h3>
				<Whole id="commit-goal" before="Of what is in commit" after="% is to be won in time" value={draft.goal} set={(goal) => setDraft({ ...draft, goal })} />
				<Bands draft={draft} setDraft={setDraft} />
				<h3 className="mt-3">Accounts at risk</h3>
				<Whole
					id="risk-share"
					before="Those that bought less than"
					after="% of the year before, or weren’t spoken to for longer than the last band"
					value={draft.risk}
					set={(risk) => setDraft({ ...draft, risk })}
				/>
				<CareDays draft={draft} setDraft={setDraft} />
			</div>
			{changed && mayChange && (
				<div className="setup-bar">
					<span />
					<div className="d-flex gap-2">
						<Button variant="link" onClick={() => setDraft(JSON.parse(saved))}>
							Discard
						</Button>
						<Button
							onClick={() =>
								void act(run("setup.saveHabits", wish), "Saved.", () => undone(run("setup.saveHabits", JSON.parse(saved)), () => setDraft(JSON.parse(saved))))
							}
						>
							Save habits
						</Button>
					</div>
				</div>
			)}
		</fieldset>
	);
}

/** Within how many days somebody of an account without a deal is to be spoken to. */
function CareDays({ draft, setDraft }: { draft: Habits; setDraft: (next: Habits) => void }) {
	return (
		<>
			<h3 className="mt-3">Care without a deal</h3>
			{(["customer", "prospect"] as const).map((kind) => (
				<Whole
					key={kind}
					id={`care-${kind}`}
					before={`Somebody of a ${kind} is spoken to within`}
					after="days"
					most={365}
					value={draft.care[kind]}
					set={(days) => setDraft({ ...draft, care: { ...draft.care, [kind]: days } })}
				/>
			))}
		</>
	);
}

interface WholeProps {
	readonly id: string;
	readonly before: string;
	readonly after: string;
	readonly value: number;
	readonly most?: number;
	readonly set: (value: number) => void;
}

/** A whole number, mostly of per cent, within a sentence. */
function Whole({ id, before, after, value, most = 100, set }: WholeProps) {
	return (
		<label className="small-text d-flex gap-2 align-items-center flex-wrap" htmlFor={id}>
			{before}
			<Form.Control
				size="sm"
				type="number"
				id={id}
				className="setting"
				min={1}
				max={most}
				value={value || ""}
				onChange={(event) => set(Number(event.target.value))}
			/>
			{after}
		</label>
	);
}

interface KindsProps {
	readonly draft: Habits;
	readonly stages: readonly string[];
	readonly mayChange: boolean;
	readonly setDraft: (next: Habits) => void;
}

function Kinds({ draft, stages, mayChange, setDraft }: KindsProps) {
	const [kind, setKind] = useState("");
	return (
		<div className="panel">
			<h3>Kinds of activity</h3>
			<p className="small-text second">A kind tied to a stage lights “stage behind” when it takes place while the deal is still before that stage.</p>
			{draft.kinds.map((own) => (
				<label key={own.kind} className="habit-line" htmlFor={`kind-${own.kind}`}>
					<span>{own.kind}</span>
					<Form.Select
						size="sm"
						id={`kind-${own.kind}`}
						value={own.position}
						onChange={(event) =>
							setDraft({
								...draft,
								kinds: draft.kinds.map((other) => (other.kind === own.kind ? { ...other, position: Number(event.target.value) } : other)),
							})
						}
					>
						<option value={0}>no stage</option>
						{stages.map((stage, i) => (
							<option key={stage} value={i + 1}>
								{stage}
							</option>
						))}
					</Form.Select>
				</label>
			))}
			{mayChange && (
				<div className="d-flex gap-2 mt-2">
					<Form.Control
						size="sm"
						aria-label="Name of the new kind of activity"
						placeholder="New kind"
						maxLength={60}
						value={kind}
						onChange={(event) => setKind(event.target.value)}
					/>
					<Button
						size="sm"
						variant="outline-primary"
						disabled={!kind.trim() || draft.kinds.some((own) => own.kind === kind.trim().toLowerCase())}
						onClick={() => {
							setDraft({ ...draft, kinds: [...draft.kinds, { kind: kind.trim().toLowerCase(), position: 0 }] });
							setKind("");
						}}
					>
						Add
					</Button>
				</div>
			)}
		</div>
	);
}

const ENDS = [
	{ value: "", label: "doesn’t end" },
	{ value: "year", label: "ends with the fiscal year" },
	...[3, 6, 12, 24, 36].map((months) => ({ value: String(months), label: `ends after ${months} months` })),
];

/** Which reasons for a loss end one day: that is when one comes back to the deal. */
function Returns({ draft, set }: { draft: Habits; set: (returns: Habits["returns"]) => void }) {
	const reasons = [...new Set(draft.reasons.map((reason) => reason.trim()).filter(Boolean))];
	return (
		<>
			<h3 className="mt-3">Reasons that end</h3>
			<ul className="rows small-text">
				{reasons.map((reason) => (
					<li key={reason}>
						<span>{reason}</span>
						<Form.Select
							size="sm"
							className="w-auto"
							aria-label={`${reason}: when it ends`}
							value={String(draft.returns[reason] ?? "")}
							onChange={(event) => {
								const { [reason]: _, ...rest } = draft.returns;
								const { value } = event.target;
								set(value === "" ? rest : { ...rest, [reason]: value === "year" ? "year" : Number(value) });
							}}
						>
							{[
								...ENDS,
								...(typeof draft.returns[reason] === "number"
									? [{ value: String(draft.returns[reason]), label: `ends after ${draft.returns[reason]} months` }]
									: []),
							]
								.filter((one, i, all) => all.findIndex(({ value }) => value === one.value) === i)
								.map(({ value, label }) => (
									<option key={value} value={value}>
										{label}
									</option>
								))}
						</Form.Select>
					</li>
				))}
			</ul>
		</>
	);
}

const BAND_WORDS = ["Under", "to", "to"];

function Bands({ draft, setDraft }: Pick<KindsProps, "draft" | "setDraft">) {
	return (
		<>
			<h3 className="mt-3">Bands of last contact</h3>
			<div className="d-flex gap-2 align-items-center flex-wrap small-text">
				{draft.bands.map((days, i) => (
					<span key={String(i)} className="d-inline-flex gap-1 align-items-center">
						{BAND_WORDS[i]}
						<Form.Control
							size="sm"
							type="number"
							className="setting"
							aria-label={`End of band ${i + 1} in days`}
							min={1}
							value={days || ""}
							onChange={(event) => setDraft({ ...draft, bands: draft.bands.map((other, n) => (n === i ? Number(event.target.value) : other)) })}
						/>
					</span>
				))}
				days, longer, never
			</div>
		</>
	);
}
