"use client";
import { Button } from "react-bootstrap";
import type { figuresOf } from "@/core/period/figures";
import { longDate } from "@/ui/format";
import { useRun } from "@/ui/run";
import { useAct } from "@/ui/useAct";
import type { TryGround } from "../server/tryGround";
import type { SavedTry } from "../server/tryShape";
import { tryFigures } from "../table/tryWords";
import { Bar } from "./Beam";

interface LineProps {
	readonly row: { readonly key: string; readonly name: string; readonly figures: ReturnType<typeof figuresOf>; readonly kept: SavedTry | null };
	readonly real: ReturnType<typeof figuresOf>;
	readonly ground: TryGround;
	readonly scale: number;
	readonly onTake: (kept: SavedTry) => void;
	readonly onLater: (kept: SavedTry) => void;
}

export function TryLine({ row, real, ground, scale, onTake, onLater }: LineProps) {
	const run = useRun();
	const act = useAct();
	const { kept, figures } = row;
	return (
		<>
			<span className="period-try-name">
				<b>{row.name}</b>
				{kept && (
					<span className="second small-text d-block">
						made {longDate(kept.madeOn)}
						{kept.own ? "" : ` by ${kept.by}`}
						{kept.sharedWith ? `, shared with ${kept.sharedWith}` : ""}
					</span>
				)}
			</span>
			<Bar figures={figures} scale={scale} currency={ground.currency} small />
			<dl className="period-try-figures">
				{tryFigures(figures, real, ground.currency).map(({ label, value, was }) => (
					<div key={label}>
						<dt>{label}</dt>
						<dd>
							{was === null ? value : <b>{value}</b>}
							{was !== null && <span className="tiny second d-block">was {was}</span>}
						</dd>
					</div>
				))}
			</dl>
			<span className="no-print">
				{kept && (
					<>
						<Button size="sm" variant="link" onClick={() => onTake(kept)}>
							Continue from this try
						</Button>
						<Button size="sm" variant="link" onClick={() => onLater(kept)}>
							Results
						</Button>
						{kept.own && (
							<Button size="sm" variant="link" onClick={() => void act(run("period.removeTry", { id: kept.id }), "Try deleted.")}>
								Delete try
							</Button>
						)}
					</>
				)}
			</span>
		</>
	);
}
