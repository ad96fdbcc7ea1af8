"use client";
import type { FlagsView } from "../../server/flagSettings";
import type { Attention } from "./draft";
import { levelWords } from "./FlagsEffect";
import { Setting } from "./RuleSetting";

interface AttentionProps {
	readonly view: FlagsView;
	readonly own: Attention;
	readonly currency: string;
	readonly mayChange: boolean;
	readonly set: (next: Attention) => void;
}

/** From which score a deal is at a level, and how heavy flags weigh; with how many deals each level holds today. */
export function AttentionLine({ view, own, currency, mayChange, set }: AttentionProps) {
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
