"use client";
import Link from "next/link";
import { useState } from "react";
import { Button } from "react-bootstrap";
import { useHotkeys } from "react-hotkeys-hook";
import type { Light } from "@/core/attention/attention";
import { plural } from "@/core/words/grammar";
import { nearDate, shortMoney } from "@/ui/format";
import { useAddress } from "@/ui/frame/address";
import { Lamp } from "@/ui/parts/Lamp";
import { MoreRows } from "@/ui/parts/MoreRows";
import type { TurnRow, TurnsView } from "../server/readTurns";
import { TurnForm, type TurnWrite } from "./TurnForm";
import "@/ui/parts/parts.css";
import "./account.css";

const groupOf = ({ side, due }: TurnRow): keyof typeof GROUPS => (side === "they" ? "they" : due ? "again" : "later");
const GROUPS = { they: "They wait for us", again: "Ask again", later: "We wait" } as const;

/** Whose turn it is: worked through by keyboard. J and K go through, L logs, A says when to ask again, O opens. */
export function TurnsScreen({ view }: { view: TurnsView }) {
	const { rows, counts } = view;
	const address = useAddress();
	const [at, setAt] = useState(0);
	const [write, setWrite] = useState<TurnWrite | null>(null);
	const here = rows[Math.min(at, rows.length - 1)];
	const move = (to: number) => {
		const place = Math.min(rows.length - 1, Math.max(0, to));
		setAt(place);
		setWrite(null);
		document.querySelector(`[data-turn="${CSS.escape(rows[place]?.id ?? "")}"]`)?.scrollIntoView({ block: "nearest" });
	};
	const begin = (place: number, what: TurnWrite) => {
		setAt(place);
		setWrite(what);
	};
	const keys = { enabled: rows.length > 0 && !write, preventDefault: true } as const;
	useHotkeys("j", () => move(at + 1), keys, [at, rows]);
	useHotkeys("k", () => move(at - 1), keys, [at, rows]);
	useHotkeys("l", () => view.mayWrite && setWrite("log"), keys, [view.mayWrite]);
	useHotkeys("a", () => view.mayWrite && setWrite("again"), keys, [view.mayWrite]);
	useHotkeys("o", () => here && window.location.assign(address(pathOf(here))), keys, [here]);
	if (!rows.length)
		return (
			<div className="panel empty">
				<h2>Nobody waits</h2>
				<p>On none of these people’s deals and accounts does anybody wait for an answer.</p>
			</div>
		);
	return (
		<section className="turns">
			<h2>{headlineOf(counts)}</h2>
			<p className="second small-text no-print">J and K go through them, L logs what was said, A says when to ask again, O opens it.</p>
			<ol className="turn-list">
				{rows.map((row, i) => (
					<li
						key={row.id}
						data-turn={row.id}
						className={`${row.id === here?.id ? "here" : ""} ${i > 0 && groupOf(rows[i - 1] as TurnRow) !== groupOf(row) ? "first" : ""}`}
					>
						{(i === 0 || groupOf(rows[i - 1] as TurnRow) !== groupOf(row)) && (
							<h3 className="turn-group">
								{GROUPS[groupOf(row)]} <span className="second">{counts[groupOf(row)]}</span>
							</h3>
						)}
						<Line row={row} view={view} choose={() => setAt(i)} write={(what) => begin(i, what)} />
						{write && row.id === here?.id && <TurnForm row={row} what={write} kinds={view.kinds} seen={view.seen} close={() => setWrite(null)} />}
					</li>
				))}
			</ol>
			<MoreRows shown={rows.length} count={view.count} order="In the order of work" />
		</section>
	);
}

const pathOf = ({ dealId, accountId }: TurnRow) => (dealId ? `/deals/${encodeURIComponent(dealId)}` : `/accounts/${encodeURIComponent(accountId ?? "")}`);

function headlineOf({ they, again, later }: TurnsView["counts"]): string {
	const said = [
		they && `${plural(they, "waits", "wait")} for us`,
		again && `${plural(again, "is", "are")} to be asked again`,
		later && `we wait for ${later}`,
	].filter(Boolean);
	return `${said.join(", ").replace(/^./, (first) => first.toUpperCase())}`;
}

interface LineProps {
	readonly row: TurnRow;
	readonly view: TurnsView;
	readonly choose: () => void;
	readonly write: (what: TurnWrite) => void;
}

function Line({ row, view, choose, write }: LineProps) {
	const address = useAddress();
	return (
		<div className="turn" onPointerDown={choose}>
			<span>
				{row.level ? <Lamp level={row.level as Light} size={16} /> : null} <Link href={address(pathOf(row))}>{row.name}</Link>
				<span className="d-block tiny second">
					{row.accountId && row.dealId ? <Link href={address(`/accounts/${encodeURIComponent(row.accountId)}`)}>{row.account}</Link> : row.account} ·{" "}
					{row.owner}
				</span>
			</span>
			<span className="num second">{row.amount ? shortMoney(row.amount, view.currency) : ""}</span>
			<span className={row.side === "they" ? "worse" : ""}>
				{row.side === "they" ? "they since" : "we since"} {nearDate(row.since, view.seen)}
				<span className="d-block tiny second">{plural(row.workingDays, "working day")}</span>
			</span>
			<span className="second">{row.askAgain ? `ask again ${nearDate(row.askAgain, view.seen)}` : "answer them"}</span>
			{view.mayWrite && (
				<span className="text-end text-nowrap no-print">
					<Button size="sm" variant="link" onClick={() => write("log")}>
						Log
					</Button>
					<Button size="sm" variant="link" onClick={() => write("again")}>
						Ask again
					</Button>
				</span>
			)}
		</div>
	);
}
