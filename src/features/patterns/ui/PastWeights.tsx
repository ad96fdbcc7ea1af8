"use client";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Button, Form } from "react-bootstrap";
import { byCount, plural, someOf } from "@/core/words/grammar";
import { shortDate } from "@/ui/format";
import { DataTable } from "@/ui/parts/table/DataTable";
import { type Input, type Result, useRun } from "@/ui/run";
import { undone, useAct } from "@/ui/useAct";
import { ShareBar } from "./ShareBar";
import { type FlagRecord, useTrackRecords } from "./useTrackRecords";
import "./patterns.css";

type Found = Result<"patterns.weights">;
type Effect = Result<"patterns.tryWeights">;
type Attention = Input<"patterns.tryWeights">["attention"];

const SEVERITY = ["light", "medium", "heavy"];

/** What flags would weigh by what came of past deals; what that would do, to today's deals and to how past ones would have been sorted; taken or not. */
export function PastWeights() {
	const [open, setOpen] = useState(false);
	return (
		<details className="panel past-weights mb-3" onToggle={(event) => setOpen(event.currentTarget.open)}>
			<summary>
				<b>Weights from the past</b> <span className="second small-text">flag weights measured from past deals</span>
			</summary>
			{open && <Weights />}
		</details>
	);
}

function Weights() {
	const run = useRun();
	const { data, error, refetch } = useQuery({
		queryKey: ["past weights"],
		queryFn: async () => {
			const outcome = await run("patterns.weights", {});
			if (!outcome.ok) throw new Error(outcome.detail);
			return outcome.result;
		},
		retry: false,
	});
	if (error) return <p className="worse">{error.message}</p>;
	if (!data) return <p className="second">Reading the past …</p>;
	return <Trial key={JSON.stringify(data.attention)} found={data} again={() => void refetch()} />;
}

/** The weights of a draft: those by lift where the past says one, the flags that weigh nothing. */
function wishOf(found: Found, byLift: boolean, unweighed: readonly string[]): Attention {
	const { attention, severities } = found;
	const weights = byLift ? Object.fromEntries(severities.flatMap(({ severity, weight }) => (weight === null ? [] : [[`weight${severity}`, weight]]))) : {};
	return { ...attention, ...weights, unweighed: [...unweighed] };
}

function Trial({ found, again }: { found: Found; again: () => void }) {
	// Long: one page, its parts in their order.
	const run = useRun();
	const act = useAct();
	const records = useTrackRecords();
	const [byLift, setByLift] = useState(false);
	const [unweighed, setUnweighed] = useState<readonly string[]>(found.attention.unweighed ?? []);
	const { effect, setEffect, trouble, look, take } = useTrial(wishOf(found, byLift, unweighed), byLift, again);
	const change = (make: () => void) => {
		setEffect(null);
		make();
	};
	const candidates = [...records.values()].filter((one) => one.with.share !== null || unweighed.includes(one.code));
	return (
		<>
			<p className="small-text second mt-2">
				By lift a flag weighs 1 − 1 ÷ lift: the share of misses among deals with it in excess of deals without it. This doesn’t show that the flag is the cause.
				{found.taken && ` Weights were set from the past on ${shortDate(found.taken.since)}; earlier days keep the weights of their time.`}
			</p>
			<Severities found={found} />
			<div className="my-2">
				<Form.Check
					type="switch"
					id="weights-by-lift"
					label="Weight each severity by its lift"
					checked={byLift}
					onChange={(event) => change(() => setByLift(event.target.checked))}
				/>
				<fieldset className="unweighed">
					<legend className="small-text">Flags without weight; they are still shown, but don’t light a lamp</legend>
					{candidates.map((one) => (
						<Form.Check
							key={one.code}
							inline
							id={`unweighed-${one.code}`}
							label={<span title={liftTitle(one)}>{one.name}</span>}
							checked={unweighed.includes(one.code)}
							onChange={(event) => change(() => setUnweighed(event.target.checked ? [...unweighed, one.code] : unweighed.filter((code) => code !== one.code)))}
						/>
					))}
				</fieldset>
			</div>
			{trouble && <p className="worse">{trouble}</p>}
			{effect && <EffectOf effect={effect} />}
			<div className="d-flex gap-2">
				<Button size="sm" variant={effect ? "outline-primary" : "primary"} onClick={() => void look()}>
					Preview the effect
				</Button>
				{effect && (
					<Button size="sm" onClick={() => void take()}>
						Use these weights from today on
					</Button>
				)}
				{found.taken && (
					<Button
						size="sm"
						variant="link"
						onClick={async () => {
							await act(run("patterns.undoWeights", { change: found.taken?.id ?? 0 }), "The previous weights apply again.");
							again();
						}}
					>
						Restore the weights from before {shortDate(found.taken.since)}
					</Button>
				)}
			</div>
		</>
	);
}

/** Looks at what weights would do, and uses them from today on. */
function useTrial(wish: Attention, byLift: boolean, again: () => void) {
	const run = useRun();
	const act = useAct();
	const [effect, setEffect] = useState<Effect | null>(null);
	const [trouble, setTrouble] = useState<string | null>(null);
	const look = async () => {
		const outcome = await run("patterns.tryWeights", { attention: wish, byLift });
		setTrouble(outcome.ok ? null : outcome.detail);
		if (outcome.ok) setEffect(outcome.result);
	};
	const take = async () => {
		await act(run("patterns.takeWeights", { attention: wish }), "These weights apply from today on; earlier days keep their weights.", (done) =>
			undone(run("patterns.undoWeights", { change: done.change }), again),
		);
		again();
	};
	return { effect, setEffect, trouble, look, take };
}

const Severities = ({ found }: { found: Found }) => (
	<DataTable
		of="Weights by severity"
		rows={found.severities}
		rowKey={({ severity }) => String(severity)}
		columns={[
			{ key: "flags", label: "Flags", names: true, cell: (_, i) => SEVERITY[i] },
			{ key: "with", label: "Not won in time, with a flag", cell: (one) => <ShareBar share={one.with} beside={one.without} /> },
			{ key: "without", label: "Without", cell: (one) => <ShareBar share={one.without} /> },
			{ key: "lift", label: "Lift", num: true, cell: ({ lift }) => (lift === null ? "–" : lift.toFixed(2)) },
			{ key: "now", label: "Weighs now", num: true, cell: (_, i) => found.now[i]?.toFixed(2) },
			{ key: "weight", label: "By lift", num: true, cell: ({ weight }) => <b>{weight === null ? "too few" : weight.toFixed(2)}</b> },
		]}
	/>
);

const liftTitle = ({ lift, with: own }: FlagRecord) =>
	lift === null ? `${own.n} deals had it: too few` : `${own.k} of ${own.n} weren’t won in time, ${lift.toFixed(2)} times as often as without it`;

const levels = ({ act, watch, calm }: Effect["before"]) => `${act} at act, ${watch} at watch, ${calm} calm`;
const names = (list: Effect["out"]) =>
	someOf(
		list.map(({ name }) => name),
		4,
	);
const chance = (value: number | null) => (value === null ? "–" : value.toFixed(3));

/** What the weights would do to today's deals, and whether they would have sorted those of the last quarters better. */
function EffectOf({ effect: { before, after, lights, out, sorting } }: { effect: Effect }) {
	return (
		<div role="status" className="weights-effect mb-2">
			<p className="mb-1">
				<b>
					{levels(before)} now; {levels(after)} then.
				</b>{" "}
				<span title={out.map(({ name }) => name).join(", ")}>
					{plural(out.length, "deal")} go{byCount(out.length, "es", "")} out{out.length > 0 && `: ${names(out)}`}
				</span>
				;{" "}
				<span title={lights.map(({ name }) => name).join(", ")}>
					{plural(lights.length, "deal")} light{byCount(lights.length, "s", "")}
					{lights.length > 0 && `: ${names(lights)}`}
				</span>
				.
			</p>
			<p className="mb-1">
				{sorting.better ? "They would have sorted past quarters better." : "No clear gain over past quarters."}{" "}
				<span className="second">It takes a rise in at least three of four.</span>
			</p>
			<DataTable
				of="The chance that a deal not won in time ranked above one that was"
				rows={sorting.quarters}
				rowKey={({ label }) => label}
				columns={[
					{ key: "quarter", label: "Quarter", names: true, cell: ({ label }) => label },
					{ key: "now", label: "With today’s weights", num: true, cell: ({ now }) => chance(now) },
					{ key: "tried", label: "With these", num: true, cell: ({ tried }) => chance(tried) },
				]}
			/>
			<p className="small-text second mb-1">
				The chance that a deal not won in time ranked above one that was; 0.500 would be chance. Weights by lift are taken from the other quarters.
			</p>
		</div>
	);
}
