"use client";
import { useState } from "react";
import { Button } from "react-bootstrap";
import { nearDate } from "@/ui/format";
import { Scrolls } from "@/ui/parts/Scrolls";
import { Term } from "@/ui/parts/Term";
import type { AccountPage, PagePerson } from "../server/accountPageView";
import { roleWords } from "../table/words";
import { ContactDialog } from "./ContactDialog";

/** People of theirs under whom they report to, with who of ours knows each best; and the ways in. */
export function WhoKnowsWhom({ view }: { view: AccountPage }) {
	const [edited, setEdited] = useState<PagePerson | "new" | null>(null);
	const edit = view.edit ? setEdited : null;
	return (
		<section className="panel" aria-label="Who knows whom">
			<div className="d-flex justify-content-between gap-2">
				<h3>Who knows whom</h3>
				<span className="d-flex gap-3 no-print">
					{view.people.length > 0 && (
						<a className="small-text" href={`/api/v1/accounts/${encodeURIComponent(view.id)}/contacts.vcf`} download="contacts.vcf">
							Save as vCard
						</a>
					)}
					{edit && (
						<Button size="sm" variant="link" className="p-0" onClick={() => edit("new")}>
							Add somebody
						</Button>
					)}
				</span>
			</div>
			{edited && <ContactDialog view={view} person={edited === "new" ? null : edited} close={() => setEdited(null)} />}
			{view.people.length === 0 ? (
				<p className="second small-text mb-0">No people of theirs are known.</p>
			) : (
				<Scrolls of="Who knows whom">
					<table className="table account-people">
						<thead>
							<tr>
								<th scope="col">Of theirs</th>
								<th scope="col">Best known by</th>
								<th scope="col" className="num">
									<Term of="tie">Tie</Term>
								</th>
								<th scope="col" className="num">
									Answers
								</th>
							</tr>
						</thead>
						<tbody>
							{view.people.map((one) => (
								<PersonLine key={one.id} person={one} seen={view.seen} edit={edit && (() => edit(one))} />
							))}
						</tbody>
					</table>
				</Scrolls>
			)}
			{view.ways.length > 0 && (
				<p className="small-text second mb-0">Ways in: {view.ways.map(({ contact, person, word }) => `${person} to ${contact} (${word})`).join(", ")}</p>
			)}
		</section>
	);
}

function PersonLine({ person, seen, edit }: { person: PagePerson; seen: string; edit: (() => void) | null }) {
	const { name, title, role, depth, reportsTo, known, last, answers } = person;
	return (
		<tr>
			<th scope="row" className="fw-normal">
				<span className="account-line" style={{ ["--depth" as string]: depth }}>
					{edit ? (
						<button type="button" className="plain-button account-person" aria-label={`${name}: edit`} onClick={edit}>
							<b>{name}</b>
						</button>
					) : (
						<b>{name}</b>
					)}
					{reportsTo && <span className="visually-hidden"> reports to {reportsTo}</span>}
					<span className="d-block tiny second">{[title, roleWords(role)].filter(Boolean).join(" · ") || "role unknown"}</span>
				</span>
			</th>
			<td>
				{known ? known.by : <span className="worse">nobody</span>}
				<span className="d-block tiny second">
					{last ? `last ${nearDate(last, seen)}` : "never in 365 days"}
					{known && known.others > 0 && `, ${known.others} more know them`}
				</span>
			</td>
			<td className="num text-nowrap">
				{known ? (
					<>
						{known.tie.toFixed(1)} <span className="second">{known.word}</span>
					</>
				) : (
					"–"
				)}
			</td>
			<td className="num text-nowrap">{answers ? `${answers.k} of ${answers.n}` : "–"}</td>
		</tr>
	);
}
