"use client";
import { useQuery } from "@tanstack/react-query";
import Link from "next/link";
import { useState } from "react";
import { Button } from "react-bootstrap";
import { shortDate } from "@/ui/format";
import { Term } from "@/ui/parts/Term";
import { type Result, useRun } from "@/ui/run";
import { useAct } from "@/ui/useAct";
import { RestForm } from "./RestForm";
import "./rounds.css";

/** On a sheet: how the deal rests, what rounds have called it, and its brief. */
export function DealRounds({ id, live }: { id: string; live: boolean }) {
	const run = useRun();
	const [resting, setResting] = useState(false);
	const { data } = useQuery({
		queryKey: ["rounds of deal", id],
		queryFn: async () => {
			const outcome = await run("rounds.ofDeal", { dealId: id });
			if (!outcome.ok) throw new Error(outcome.detail);
			return outcome.result;
		},
		enabled: live,
		retry: false,
	});
	if (!live) return null;
	const rest = data?.rests.find(({ holds }) => holds);
	const asked = data?.rests.find(({ state }) => state === "asked");
	return (
		<section aria-label="Rounds and rest">
			<h3>
				{rest ? (
					`At rest until ${shortDate(rest.until)}`
				) : (
					<>
						Rounds and <Term of="rest">rest</Term>
					</>
				)}
			</h3>
			{rest && <Resting rest={rest} mayEnd={data?.mayGive ?? false} />}
			{asked && <AskedFor asked={asked} mayGive={data?.mayGive ?? false} />}
			{data && data.calls.length > 0 && (
				<ul className="rows small-text">
					{data.calls.slice(0, 5).map((call) => (
						<li key={call.id}>
							<span>{call.said}</span>
							<span className="second text-nowrap">
								<Link href={`/rounds/${call.roundId}`}>{shortDate(call.on)}</Link>, {call.by}
							</span>
						</li>
					))}
				</ul>
			)}
			{resting && data ? (
				<RestForm dealId={id} today={data.today} give={data.mayGive} onDone={() => setResting(false)} />
			) : (
				<span className="d-flex gap-3 no-print small-text">
					<Link href={`/deals/${encodeURIComponent(id)}/brief`}>Brief on one page</Link>
					{data?.lit && data.mayRest && !rest && !asked && (
						<button type="button" className="plain-button text-decoration-underline" onClick={() => setResting(true)}>
							{data.mayGive ? "Give rest …" : "Ask for rest …"}
						</button>
					)}
				</span>
			)}
		</section>
	);
}

type Rest = Result<"rounds.ofDeal">["rests"][number];

/** That a deal rests, and why; those who may give rests can end it. */
function Resting({ rest, mayEnd }: { rest: Rest; mayEnd: boolean }) {
	const run = useRun();
	const act = useAct();
	return (
		<p className="small-text mb-1">
			{rest.reason} <span className="second">({rest.by})</span>{" "}
			{mayEnd && (
				<button
					type="button"
					className="plain-button tiny text-decoration-underline no-print"
					onClick={() => void act(run("rounds.endRest", { id: rest.id }), "Lit again.")}
				>
					End rest
				</button>
			)}
		</p>
	);
}

/** That a rest is asked for; those who may give rests answer it. */
function AskedFor({ asked, mayGive }: { asked: Rest; mayGive: boolean }) {
	const run = useRun();
	const act = useAct();
	const answer = (give: boolean) =>
		void act(run("rounds.answerRest", { id: asked.id, give }), give ? `At rest until ${shortDate(asked.until)}.` : "It stays lit.");
	return (
		<p className="small-text mb-1">
			{asked.askedBy} asks for a rest until {shortDate(asked.until)}: {asked.reason}{" "}
			{mayGive && (
				<span className="no-print">
					<Button size="sm" onClick={() => answer(true)}>
						Give rest
					</Button>{" "}
					<Button size="sm" variant="outline-primary" onClick={() => answer(false)}>
						Refuse
					</Button>
				</span>
			)}
		</p>
	);
}
