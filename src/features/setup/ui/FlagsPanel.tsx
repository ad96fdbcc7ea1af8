"use client";
import { useEffect, useMemo, useState } from "react";
import { Alert, Button } from "react-bootstrap";
import { PastWeights } from "@/features/patterns/ui/PastWeights";
import { instantDay } from "@/ui/format";
import { useRun } from "@/ui/run";
import { undone, useAct } from "@/ui/useAct";
import type { FlagsView } from "../server/flagSettings";
import { AttentionLine } from "./flags/AttentionLine";
import type { Draft, Wish } from "./flags/draft";
import { withSetting } from "./flags/draft";
import { EffectWords, useEffectOf } from "./flags/FlagsEffect";
import { RuleLine } from "./flags/RuleLine";

interface Props {
	readonly view: FlagsView;
	readonly mayChange: boolean;
	readonly currency: string;
	readonly zone: string;
}

/** Every rule with its settings, for the organisation and for single stages. Says what a change would do before it is made. */
export function FlagsPanel({ view, mayChange, currency, zone }: Props) {
	// Long: one page, its parts in their order.
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
						set={(stage, name, value) => setDraft((now) => withSetting(now, rule.code, stage, name, value))}
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
