"use client";
import Link from "next/link";
import { Button } from "react-bootstrap";
import { plural } from "@/core/words/grammar";
import { money, shortDate } from "@/ui/format";
import { Scrolls } from "@/ui/parts/Scrolls";
import { useRun } from "@/ui/run";
import { useAct } from "@/ui/useAct";
import type { RestView } from "../server/readRests";
import "./rounds.css";

/** Deals that are left alone, those for which it is asked, and rests that are over. */
export function RestsScreen({ rests, mayGive, currency }: { rests: readonly RestView[]; mayGive: boolean; currency: string }) {
	const run = useRun();
	const act = useAct();
	const asked = rests.filter(({ state }) => state === "asked");
	const holding = rests.filter(({ holds }) => holds);
	const over = rests.filter(({ state, holds }) => state !== "asked" && !holds).slice(0, 50);
	const answer = (rest: RestView, give: boolean) =>
		act(run("rounds.answerRest", { id: rest.id, give }), give ? `${rest.deal} rests until ${shortDate(rest.until)}.` : "It stays lit; they’ll be notified.");
	const end = (rest: RestView) =>
		act(
			run("rounds.endRest", { id: rest.id }),
			`${rest.deal} is lit again.`,
			mayGive ? () => run("rounds.giveRest", { dealId: rest.dealId, until: rest.until, reason: rest.reason }) : undefined,
		);
	return (
		<>
			{asked.length > 0 && (
				<>
					<h2>{plural(asked.length, "rest")} asked for</h2>
					<Table
						rests={asked}
						currency={currency}
						last={(rest) =>
							mayGive ? (
								<span className="text-nowrap">
									<Button size="sm" onClick={() => void answer(rest, true)} aria-label={`Give rest: ${rest.deal}`}>
										Give rest
									</Button>{" "}
									<Button size="sm" variant="outline-primary" onClick={() => void answer(rest, false)} aria-label={`Refuse: ${rest.deal}`}>
										Refuse
									</Button>
								</span>
							) : (
								"waits for an answer"
							)
						}
					/>
				</>
			)}
			<h2 className={asked.length ? "mt-4" : ""}>{holding.length ? `${plural(holding.length, "deal")} at rest` : "No deal is at rest"}</h2>
			{holding.length ? (
				<Table
					rests={holding}
					currency={currency}
					last={(rest) =>
						mayGive ? (
							<Button size="sm" variant="outline-primary" onClick={() => void end(rest)} aria-label={`End rest: ${rest.deal}`}>
								End rest
							</Button>
						) : null
					}
				/>
			) : (
				<p className="panel second">
					Give a lit deal that can wait a rest, on its sheet or in the walk. Until its day, or until another flag lights, it isn’t counted.
				</p>
			)}
			{over.length > 0 && (
				<>
					<h2 className="mt-4">Past</h2>
					<Table rests={over} currency={currency} last={({ over: why, state }) => (state === "refused" ? "refused" : why)} />
				</>
			)}
		</>
	);
}

function Table({ rests, currency, last }: { rests: readonly RestView[]; currency: string; last: (rest: RestView) => React.ReactNode }) {
	return (
		<Scrolls of="Rests" className="panel p-0">
			<table className="table mb-0">
				<thead>
					<tr>
						<th scope="col">Deal</th>
						<th scope="col">Owner</th>
						<th scope="col" className="num">
							Amount
						</th>
						<th scope="col">Until</th>
						<th scope="col">Reason</th>
						<th scope="col">By</th>
						<th scope="col">
							<span className="visually-hidden">What happened to it</span>
						</th>
					</tr>
				</thead>
				<tbody>
					{rests.map((rest) => (
						<tr key={rest.id}>
							<th scope="row">
								<Link href={`/deals/${encodeURIComponent(rest.dealId)}`}>{rest.deal}</Link>
								<span className="d-block tiny second fw-normal">{rest.account}</span>
							</th>
							<td>{rest.owner}</td>
							<td className="num text-nowrap">{money(rest.amount, currency)}</td>
							<td className="text-nowrap">
								{shortDate(rest.until)}
								{rest.afterClose && <span className="d-block tiny worse">after its close date</span>}
							</td>
							<td>{rest.reason}</td>
							<td>
								{rest.by ?? ""}
								{rest.askedBy && <span className="d-block tiny second">asked by {rest.askedBy}</span>}
							</td>
							<td>{last(rest)}</td>
						</tr>
					))}
				</tbody>
			</table>
		</Scrolls>
	);
}
