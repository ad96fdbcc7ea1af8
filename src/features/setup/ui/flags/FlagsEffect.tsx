"use client";
import { useEffect, useState } from "react";
import { byCount, someOf } from "@/core/words/grammar";
import { useRun } from "@/ui/run";
import type { Levels, SettingsEffect } from "../../server/flagSettings";

export const levelWords = (levels: Levels) => `${levels.act} at act, ${levels.watch} at watch, ${levels.calm} calm`;

/** What the settings would do, looked at a moment after they were typed; not while nothing is wished. */
export function useEffectOf(text: string, wished: boolean) {
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
export function EffectWords({ effect }: { effect: SettingsEffect }) {
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
