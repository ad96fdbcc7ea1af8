"use client";
import { ProgressBar } from "react-bootstrap";
import { instantWords } from "@/ui/format";
import { useLookAgain } from "@/ui/useLookAgain";

interface Props {
	readonly asOf: string | null;
	readonly progress: { readonly done: number; readonly steps: number } | null;
	readonly zone: string;
	/** there is nothing yet to look at meanwhile */
	readonly first: boolean;
}

/** Says as of when something is known that a thread of its own works out, and looks again until all is in it. */
export function Known({ asOf, progress, zone, first }: Props) {
	useLookAgain(progress !== null);
	if (!progress && !asOf) return null;
	const percent = progress ? Math.round((100 * progress.done) / Math.max(1, progress.steps)) : 100;
	if (first)
		return (
			<div className="panel empty" role="status">
				<h2>Reading the past …</h2>
				<p>The whole past is being read; results appear here when it is done. You can keep working.</p>
				<ProgressBar now={percent} label={`${percent}%`} visuallyHidden />
			</div>
		);
	return (
		<p className="tiny second" role="status">
			{asOf && `As of ${instantWords(asOf, zone)}. `}
			{progress && `Including later changes: ${percent}%.`}
		</p>
	);
}
