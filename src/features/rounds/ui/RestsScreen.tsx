"use client";
import { Button } from "react-bootstrap";
import { plural } from "@/core/words/grammar";
import { money, shortDate } from "@/ui/format";
import { DataTable } from "@/ui/parts/table/DataTable";
import { dealColumn } from "@/ui/parts/table/dealColumn";
import { useRun } from "@/ui/run";
import { useAct } from "@/ui/useAct";
import type { RestView } from "../server/readRests";
import "./rounds.css";

/** Deals that are left alone, those for which it is asked, and rests that are over. */
export function RestsScreen({ rests, mayGive, currency }: { rests: readonly RestView[]; mayGive: boolean; currency: string }) {
	// Long: one page, its parts in their order.
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
		<DataTable
			of="Rests"
			rows={rests}
			rowKey={({ id }) => id}
			columns={[
				dealColumn(({ dealId, deal, account }: RestView) => ({ id: dealId, name: deal, account })),
				{ key: "owner", label: "Owner", by: ({ owner }) => owner, cell: ({ owner }) => owner },
				{ key: "amount", label: "Amount", num: true, className: "text-nowrap", by: ({ amount }) => amount, cell: ({ amount }) => money(amount, currency) },
				{
					key: "until",
					label: "Until",
					className: "text-nowrap",
					by: ({ until }) => until,
					cell: ({ until, afterClose }) => (
						<>
							{shortDate(until)}
							{afterClose && <span className="d-block tiny worse">after its close date</span>}
						</>
					),
				},
				{ key: "reason", label: "Reason", cell: ({ reason }) => reason },
				{
					key: "by",
					label: "By",
					by: ({ by }) => by,
					cell: ({ by, askedBy }) => (
						<>
							{by ?? ""}
							{askedBy && <span className="d-block tiny second">asked by {askedBy}</span>}
						</>
					),
				},
				{ key: "last", label: "What happened to it", silent: true, cell: last },
			]}
		/>
	);
}
