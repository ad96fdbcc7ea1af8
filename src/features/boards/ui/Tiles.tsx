"use client";
import Link from "next/link";
import { useRouter } from "next/navigation";
import { plural } from "@/core/words/grammar";
import type { TurnRow } from "@/features/accounts";
import type { ChangedStep } from "@/features/changes/server/changesView";
import type { FlowView } from "@/features/changes/server/readFlow";
import type { TrendView } from "@/features/changes/server/readTrend";
import { BridgeChart } from "@/features/changes/ui/BridgeChart";
import { FlowTable } from "@/features/changes/ui/Flow";
import { TrendChart } from "@/features/changes/ui/TrendChart";
import type { DealRow } from "@/features/deals";
import type { GroupRow } from "@/features/period/server/readPeriod";
import { reachOfBeam } from "@/features/period/table/beam";
import type { FigureUnit } from "@/features/period/table/figures";
import { changeWords, figureWords } from "@/features/period/table/figureWords";
import { Bar } from "@/features/period/ui/Beam";
import { nearDate, shortMoney } from "@/ui/format";
import { useAddress } from "@/ui/frame/address";
import { Lamp } from "@/ui/parts/Lamp";
import { Scrolls } from "@/ui/parts/Scrolls";
import "@/features/changes/ui/changes.css";
import "@/features/period/ui/period.css";

/** What stands where a tile needs a period that begins and ends. */
export const NoPeriodTile = () => <p className="second small-text">Choose a period with a start and an end in the sentence above.</p>;
export const MissingTile = ({ words }: { words: string }) => <p className="second small-text">{words}</p>;

interface FigureProps {
	readonly value: number | null;
	readonly change: number | null;
	readonly unit: FigureUnit;
	readonly currency: string;
	readonly against: string;
}

export function FigureTile({ value, change, unit, currency, against }: FigureProps) {
	const changed = changeWords(change, unit, currency);
	return (
		<p className="tile-figure mb-0">
			<b className="num">{figureWords(value, unit, currency)}</b>
			{changed && (
				<span className="second small-text d-block">
					{changed} since {against}
				</span>
			)}
		</p>
	);
}

export function DealsTile({ rows, count, amount, currency }: { rows: readonly DealRow[]; count: number; amount: number; currency: string }) {
	const address = useAddress();
	return (
		<>
			<p className="second small-text mb-1">
				{plural(count, "deal")}, {shortMoney(amount, currency)}
			</p>
			<ul className="period-deals">
				{rows.map((row) => (
					<li key={row.id} className="period-deal">
						{row.closedOn === null ? <Lamp level={row.level as "act" | "watch" | "calm"} size={16} /> : <span />}
						<span className="period-deal-name text-truncate">
							<Link href={address(`/deals/${encodeURIComponent(row.id)}`)}>{row.name}</Link>{" "}
							<span className="second small-text">
								{row.ownerShort} · {row.stage}
							</span>
						</span>
						<span className="num">{shortMoney(row.amount, currency)}</span>
					</li>
				))}
			</ul>
		</>
	);
}

/** Who waits for whom, and since when. */
export function TurnsTile({ says, rows, seen }: { says: string; rows: readonly TurnRow[]; seen: string }) {
	const address = useAddress();
	return (
		<>
			<p className="second small-text mb-1">{says}</p>
			<ul className="period-deals">
				{rows.map(({ id, dealId, accountId, name, account, owner, level, side, since }) => (
					<li key={id} className="period-deal">
						{level ? <Lamp level={level as "act" | "watch" | "calm"} size={16} /> : <span />}
						<span className="period-deal-name text-truncate">
							<Link href={address(dealId ? `/deals/${encodeURIComponent(dealId)}` : `/accounts/${encodeURIComponent(accountId ?? "")}`)}>{name}</Link>{" "}
							<span className="second small-text">
								{account} · {owner}
							</span>
						</span>
						<span className={side === "they" ? "worse text-nowrap small-text" : "second text-nowrap small-text"}>
							{side === "they" ? "they" : "we"} since {nearDate(since, seen)}
						</span>
					</li>
				))}
			</ul>
		</>
	);
}

export function BeamsTile({ groups, currency }: { groups: readonly GroupRow[]; currency: string }) {
	const scale = Math.max(...groups.map(({ figures }) => reachOfBeam(figures)), 0) * 1.02;
	return (
		<ul className="tile-beams">
			{groups.map((group) => (
				<li key={group.key}>
					<span className="text-truncate">{group.name}</span>
					<Bar figures={group.figures} scale={scale} currency={currency} small />
					<span className="num small-text">
						{group.figures.gap === null ? shortMoney(group.figures.won.amount, currency) : `${shortMoney(group.figures.gap, currency)} missing`}
					</span>
				</li>
			))}
		</ul>
	);
}

export function BridgeTile({ steps, currency }: { steps: readonly ChangedStep[]; currency: string }) {
	const router = useRouter();
	const address = useAddress();
	return <BridgeChart steps={steps} currency={currency} chosen={null} onPick={(step) => router.push(address("/changes", { step }))} />;
}

export function TrendTile({ view, seen }: { view: TrendView; seen: string }) {
	const router = useRouter();
	const address = useAddress();
	return <TrendChart view={view} seen={seen} open={(day) => router.push(address("/deals", { seen: day }))} />;
}

export function FlowTile({ view }: { view: FlowView }) {
	const router = useRouter();
	const address = useAddress();
	return (
		<Scrolls of="Stage flow">
			<FlowTable view={view} cell={null} onPick={(cell) => router.push(address("/changes", { show: "flow", cell }))} />
		</Scrolls>
	);
}

export const TextTile = ({ text }: { text: string }) => <p className="tile-text mb-0">{text || "No text yet."}</p>;
