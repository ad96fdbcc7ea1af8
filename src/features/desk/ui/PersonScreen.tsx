"use client";
import Link from "next/link";
import { Button } from "react-bootstrap";
import type { Light } from "@/core/attention/attention";
import { plural } from "@/core/words/grammar";
import { nearDate, shortMoney } from "@/ui/format";
import { useAddress } from "@/ui/frame/address";
import { AddLine } from "@/ui/parts/AddLine";
import { FlagChip } from "@/ui/parts/FlagChip";
import { Lamp } from "@/ui/parts/Lamp";
import { useRun } from "@/ui/run";
import { useAct } from "@/ui/useAct";
import type { PersonPage } from "../server/readPerson";
import { PersonPast, Promised } from "./PersonPast";
import "@/ui/parts/parts.css";
import "./desk.css";

const FLAGS = 2;

/** One of ours on one page, before a talk: deals, period, what the past says, what was promised, contacts, and points to talk about. */
export function PersonScreen({ view }: { view: PersonPage }) {
	const address = useAddress();
	return (
		<div className="person">
			<header className="person-head">
				<p className="second small-text mb-1">{[view.role, view.team].filter(Boolean).join(" · ")}</p>
				{view.headline && <p className="person-says mb-0">{view.headline}.</p>}
			</header>
			<section className="panel" aria-label="Open deals">
				<h2>
					{view.lit} of {plural(view.dealCount, "open deal")} lit
				</h2>
				<ul className="rows small-text">
					{view.deals.map((row) => (
						<li key={row.id}>
							<span>
								<Lamp level={row.level as Light} size={16} /> <Link href={address(`/deals/${encodeURIComponent(row.id)}`)}>{row.name}</Link>{" "}
								<span className="second">{row.account}</span>
								<span className="person-flags">
									{row.flags.slice(0, FLAGS).map((flag) => (
										<FlagChip key={flag.code} label={flag.label} severity={flag.severity} reason={flag.reason} />
									))}
									{row.flags.length > FLAGS && <span className="tiny second"> {row.flags.length - FLAGS} more</span>}
								</span>
							</span>
							<span className="num">{shortMoney(row.amount, view.currency)}</span>
						</li>
					))}
					{!view.deals.length && <li className="second">No open deals.</li>}
				</ul>
				{view.dealCount > view.deals.length && <Link href={address("/deals", { whose: `person:${view.id}` })}>All {view.dealCount}</Link>}
			</section>
			<div className="person-side">
				<Points view={view} />
				<PersonPast view={view} />
				<Promised view={view} />
			</div>
		</div>
	);
}

/** Points for the next talk, read by those who lead them alone. */
function Points({ view }: { view: PersonPage }) {
	const run = useRun();
	const act = useAct();
	if (!view.points) return null;
	const add = (body: string) => act(run("desk.addPoint", { personId: view.id, body }), "Point added.", ({ id }) => run("desk.strikePoint", { id }));
	return (
		<section className="panel" aria-label="For the next talk">
			<h2>For the next talk</h2>
			<p className="tiny second">Only those who lead {view.name} read this.</p>
			<ul className="rows small-text">
				{view.points.map((point) => (
					<li key={point.id}>
						<span>
							{point.body}
							<span className="d-block tiny second">
								{point.by}, {nearDate(point.on, view.seen)}
							</span>
						</span>
						<Button
							size="sm"
							variant="link"
							className="no-print"
							aria-label={`Strike off: ${point.body.slice(0, 40)}`}
							onClick={() => void act(run("desk.strikePoint", { id: point.id }), "Struck off.", () => run("desk.strikePoint", { id: point.id, struck: false }))}
						>
							Strike off
						</Button>
					</li>
				))}
				{!view.points.length && <li className="second">Nothing yet.</li>}
			</ul>
			<AddLine label="A point for the next talk" most={1000} onAdd={add} />
		</section>
	);
}
