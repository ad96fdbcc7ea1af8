"use client";
import { useRouter } from "next/navigation";
import { useMemo, useRef } from "react";
import type { RiverView } from "@/features/changes/server/readRiver";
import { axisOf } from "@/features/changes/ui/river/axis";
import { draw } from "@/features/changes/ui/river/geometry";
import { RiverPicture } from "@/features/changes/ui/river/RiverPicture";
import { unpackRiver } from "@/features/changes/ui/river/unpack";
import { useRiver } from "@/features/changes/ui/river/useRiver";
import { useAddress } from "@/ui/frame/address";
import { useWidth } from "@/ui/parts/useWidth";
import { Fetching, NotFetched, usePacked } from "@/ui/usePacked";
import "@/features/changes/ui/river/river.css";

const HEIGHT = 360;
const LEAST_WIDTH = 480;

/** The river as a picture alone; pressed it opens the one with a date that runs. */
export function RiverTile({ packed, span, revision }: { packed: string | null; span: string; revision: number }) {
	const address = useAddress();
	const { value, failed, again } = usePacked(packed, address("/changes/river", { span, revision: String(revision) }), unpackRiver);
	if (failed) return <NotFetched again={again} />;
	return value ? <Still view={value} span={span} /> : <Fetching words="Fetching the river …" />;
}

function Still({ view, span }: { view: RiverView; span: string }) {
	const router = useRouter();
	const address = useAddress();
	const line = useRef<HTMLDivElement>(null);
	const { picture, failed } = useRiver(view, null);
	const [box, width] = useWidth();
	const drawing = useMemo(() => (picture && width ? draw(picture, { width: Math.max(LEAST_WIDTH, width), height: HEIGHT }) : null), [picture, width]);
	const stages = useMemo(() => view.columns.stages.map(({ name }) => name), [view]);
	if (failed) return <p className="second small-text">The river couldn’t be computed in this browser. Reload the page.</p>;
	if (!view.deals.length) return <p className="second small-text">No deals of these people were due in the period during this span.</p>;
	return (
		<div className="river river-still" ref={box as React.RefObject<HTMLDivElement>}>
			{drawing && picture && (
				<RiverPicture
					drawing={drawing}
					picture={picture}
					stageNames={stages}
					currency={view.currency}
					week={picture.weeks.length - 1}
					thread={null}
					line={line}
					flag={line}
					axis={axisOf(view.weeks, drawing.xs)}
					onDrag={ignore}
					onDrop={ignore}
					onPoint={ignore}
					onPick={() => router.push(address("/changes", { show: "river", span }))}
				/>
			)}
		</div>
	);
}

const ignore = () => undefined;
