"use client";
import { useState } from "react";
import { Button } from "react-bootstrap";
import { longDate } from "@/ui/format";
import { useMay } from "@/ui/frame/may";
import { DataTable } from "@/ui/parts/table/DataTable";
import type { PeopleView } from "../server/readPeople";
import { HandOverDialog } from "./handOver/HandOverDialog";
import { PersonDialog } from "./PersonDialog";
import { TeamDialog } from "./TeamDialog";
import "./people.css";

type Person = PeopleView["without"][number];
type Team = PeopleView["teams"][number];

const worksHere = ({ active, until }: Person) => (active ? (until ? `until ${longDate(until)}` : "yes") : until ? `left on ${longDate(until)}` : "not yet");

/** Whether somebody can sign in today; of whom it says no, it says why. */
function signsIn({ id, active, until }: Person, signIns: readonly string[]) {
	if (!active) return <span className="third">{until ? "no: has left" : "not yet"}</span>;
	return signIns.includes(id) ? "yes" : <span className="third">no password</span>;
}

/** The tree of teams with who is in them. `signIns` are those who can sign in; null where whoever looks may change nothing. */
export function PeoplePanel({ view, signIns, zone }: { view: PeopleView; signIns: readonly string[] | null; zone: string }) {
	const [person, setPerson] = useState<Person | "new" | null>(null);
	const [team, setTeam] = useState<Team | "new" | null>(null);
	const [from, setFrom] = useState<Person | null>(null);
	const mayChange = signIns !== null;
	const groups = [
		...view.teams.map((one) => ({ key: one.name, team: one as Team | null, depth: one.depth, people: one.people })),
		...(view.without.length ? [{ key: "", team: null, depth: 0, people: view.without }] : []),
	];
	const everybody = groups.flatMap(({ people }) => people);
	const teams = view.teams.map(({ name }) => name);
	return (
		<section className="panel">
			{mayChange && (
				<div className="d-flex gap-2 mb-2">
					<Button size="sm" onClick={() => setPerson("new")}>
						Add person
					</Button>
					<Button size="sm" variant="outline-primary" onClick={() => setTeam("new")}>
						Add team
					</Button>
				</div>
			)}
			{groups.length === 0 ? (
				<p className="second mb-0">No people yet. People and teams come with the first import{mayChange ? ", or are added here" : ""}.</p>
			) : (
				<Tree groups={groups} signIns={signIns} onTeam={setTeam} onPerson={setPerson} onHandOver={setFrom} />
			)}
			{person && (
				<PersonDialog
					person={person === "new" ? null : person}
					everybody={everybody}
					teams={teams}
					signsIn={person !== "new" && (signIns?.includes(person.id) ?? false)}
					onClose={() => setPerson(null)}
				/>
			)}
			{from && <HandOverDialog from={from} zone={zone} onClose={() => setFrom(null)} />}
			{team && <TeamDialog team={team === "new" ? null : { name: team.name, parent: team.parent }} teams={teams} onClose={() => setTeam(null)} />}
		</section>
	);
}

interface TreeProps {
	readonly groups: readonly { readonly key: string; readonly team: Team | null; readonly depth: number; readonly people: readonly Person[] }[];
	readonly signIns: readonly string[] | null;
	readonly onTeam: (team: Team) => void;
	readonly onPerson: (person: Person) => void;
	readonly onHandOver: (from: Person) => void;
}

/** The teams with their people, each team as deep as it stands in the tree. */
function Tree({ groups, signIns, onTeam, onPerson, onHandOver }: TreeProps) {
	// Long: one tree, drawn by itself for what is below.
	const mayHandOver = useMay("handOver");
	const mayChange = signIns !== null;
	const depthOf = new Map(groups.flatMap(({ people, depth }) => people.map(({ id }) => [id, depth] as const)));
	return (
		<DataTable
			of="People"
			className=""
			tableClass="people-table"
			rows={[]}
			sections={groups.map((group) => ({
				key: group.key,
				heading: (
					<span className={`team-${Math.min(3, group.depth)}`}>
						{group.team?.name ?? "Without a team"}
						{group.team?.parent && <span className="second fw-normal">, part of {group.team.parent}</span>}{" "}
						<span className="third fw-normal">{group.people.length}</span>
					</span>
				),
				...(mayChange
					? {
							aside: group.team && (
								<Button size="sm" variant="link" className="p-0" aria-label={`Change team ${group.team.name}`} onClick={() => group.team && onTeam(group.team)}>
									Change
								</Button>
							),
						}
					: {}),
				rows: group.people,
			}))}
			rowKey={({ id }) => id}
			rowClass={({ active }) => (active ? undefined : "second")}
			columns={[
				{ key: "name", label: "Name", cell: (one) => <span className={`team-${Math.min(3, depthOf.get(one.id) ?? 0)}`}>{one.name}</span> },
				{ key: "role", label: "Role", cell: ({ role }) => role },
				{ key: "email", label: "E-mail", cell: ({ email }) => email ?? "–" },
				{ key: "here", label: "With the company", cell: worksHere },
				mayChange && { key: "signsIn", label: "Signs in", cell: (one) => signsIn(one, signIns) },
				(mayChange || mayHandOver) && {
					key: "change",
					label: "Change",
					silent: true,
					num: true,
					className: "text-nowrap",
					cell: (one) => (
						<>
							{mayHandOver && (mayChange || one.role !== "viewer") && (
								<Button size="sm" variant="link" className="p-0 me-3" aria-label={`Hand over or leave: ${one.name}`} onClick={() => onHandOver(one)}>
									Hand over or leave
								</Button>
							)}
							{mayChange && (
								<Button size="sm" variant="link" className="p-0" aria-label={`Change ${one.name}`} onClick={() => onPerson(one)}>
									Change
								</Button>
							)}
						</>
					),
				},
			]}
		/>
	);
}
