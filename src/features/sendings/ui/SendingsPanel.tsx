"use client";
import { Button } from "react-bootstrap";
import { shortDate } from "@/ui/format";
import { Scrolls } from "@/ui/parts/Scrolls";
import { useRun } from "@/ui/run";
import { useAct } from "@/ui/useAct";
import type { SendingsView, SendingView } from "../server/sendings";
import { NewSending } from "./NewSending";
import { rhythmWords } from "./rhythmWords";

/** What is sent by itself, to whom and when it last was; one press ends it. */
export function SendingsPanel({ view }: { view: SendingsView }) {
	return (
		<>
			<section className="panel mb-3">
				<p className="second">
					{view.all ? "All that is sent by itself in the company." : "What you have sent by itself, and what you are sent."} Everybody is sent what they may see
					themselves.
				</p>
				{view.sendings.length === 0 ? (
					<p className="mb-0">Nothing is sent by itself yet.</p>
				) : (
					<Scrolls of="Sent by itself">
						<table className="table">
							<thead>
								<tr>
									<th scope="col">What</th>
									<th scope="col">When</th>
									<th scope="col">To</th>
									<th>
										<span className="visually-hidden">End</span>
									</th>
								</tr>
							</thead>
							<tbody>
								{view.sendings.map((one) => (
									<Line key={one.id} sending={one} />
								))}
							</tbody>
						</table>
					</Scrolls>
				)}
			</section>
			{view.choices && <NewSending choices={view.choices} />}
		</>
	);
}

function Line({ sending }: { sending: SendingView }) {
	const run = useRun();
	const act = useAct();
	const { id, what, whose, by, attach, skipSame, to, own } = sending;
	const more = [attach && "with the file", skipSame && "left out where nothing moved"].filter(Boolean).join(", ");
	return (
		<tr>
			<th scope="row" className="fw-normal">
				{what}
				<span className="d-block tiny second">
					{whose} deals; set up by {by}
					{more && `; ${more}`}
				</span>
			</th>
			<td>{rhythmWords(sending)}</td>
			<td>
				{to.map(({ name, on, skipped }) => (
					<span key={name} className="d-block">
						{name} <span className="tiny second">{on ? `${skipped ? "left out, nothing had moved" : "sent"} ${shortDate(on)}` : "not sent yet"}</span>
					</span>
				))}
			</td>
			<td className="text-end">
				<Button
					size="sm"
					variant="link"
					aria-label={`End: ${what}`}
					onClick={() => void act(run("sendings.end", { id }), own ? "It isn’t sent any more." : "You aren’t sent it any more.")}
				>
					{own ? "End" : "Stop for me"}
				</Button>
			</td>
		</tr>
	);
}
