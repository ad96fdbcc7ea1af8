"use client";
import { useEffect, useState } from "react";
import { Alert } from "react-bootstrap";
import type { RulesEffectOn, RulesFigure } from "@/features/period/server/previewRules";
import { figureWords } from "@/features/period/table/figureWords";
import { longDate } from "@/ui/format";
import { type Input, useRun } from "@/ui/run";

/** What is asked is looked at once nobody has typed for so long, in ms. */
const PAUSE = 350;

export interface RulesEffectState {
	readonly on: readonly RulesEffectOn[] | null;
	readonly error: string | null;
}

/**
 * What other rules would change, asked once typing pauses; null while it is being worked out. `text` is the wish as JSON, or
 * null where nothing is wished.
 */
export function useRulesEffect(text: string | null): RulesEffectState {
	const [state, setState] = useState<RulesEffectState & { readonly of: string | null }>({ on: null, error: null, of: null });
	const run = useRun();
	useEffect(() => {
		if (text === null) return;
		let old = false;
		const timer = setTimeout(async () => {
			const answer = await run("period.previewRules", JSON.parse(text) as Input<"period.previewRules">);
			if (!old) setState(answer.ok ? { on: answer.result.on, error: null, of: text } : { on: null, error: answer.detail, of: text });
		}, PAUSE);
		return () => {
			old = true;
			clearTimeout(timer);
		};
	}, [text, run]);
	// An answer to what was wished before isn't one to this.
	return state.of === text ? state : { on: null, error: null };
}

const wordsOf = (value: RulesFigure["before"], unit: RulesFigure["unit"], currency: string) =>
	typeof value === "string" || unit === "period" ? String(value) : figureWords(value, unit, currency);

/** How many figures of a day are named before the rest is counted. */
const NAMED = 6;

/** `Today: weighted €2.31m → €2.40m. Monday round: nothing.` */
export function RulesEffect({ state: { on, error }, currency }: { state: RulesEffectState; currency: string }) {
	if (error)
		return (
			<Alert variant="danger" className="small-text mb-0">
				{error}
			</Alert>
		);
	if (!on) return <span className="second">Computing the effect …</span>;
	return (
		<ul className="effects mb-0">
			{on.map(({ name, day, figures }) => (
				<li key={day}>
					<b>{name === "today" ? "Today" : `${name}, ${longDate(day)}`}</b>:{" "}
					{figures.length === 0
						? "no figure changes"
						: figures
								.slice(0, NAMED)
								.map(({ label, unit, before, after }) => `${label} ${wordsOf(before, unit, currency)} → ${wordsOf(after, unit, currency)}`)
								.join(", ")}
					{figures.length > NAMED && (
						<span
							className="second"
							title={figures
								.slice(NAMED)
								.map(({ label, unit, before, after }) => `${label} ${wordsOf(before, unit, currency)} → ${wordsOf(after, unit, currency)}`)
								.join("\n")}
						>
							{" "}
							and {figures.length - NAMED} more
						</span>
					)}
				</li>
			))}
		</ul>
	);
}
