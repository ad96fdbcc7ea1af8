"use client";
import { useRouter } from "next/navigation";
import { useEffect } from "react";
import { ProgressBar } from "react-bootstrap";
import { instantWords } from "@/ui/format";

interface Props {
	readonly asOf: string | null;
	readonly progress: { readonly done: number; readonly steps: number } | null;
	readonly zone: string;
	/** there is nothing yet to look at meanwhile */
	readonly first: boolean;
}

/** so often it is looked whether it is done */
const LOOK = 2000;

/** Says as of when something is known that a thread of its own works out, and looks again until all is in it. */
export function Known({ asOf, progress, zone, first }: Props) {
	const router = useRouter();
	useEffect(() => {
		if (!progress) return;
		const timer = setInterval(() => router.refresh(), LOOK);
		return () => clearInterval(timer);
	}, [progress, router]);
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
