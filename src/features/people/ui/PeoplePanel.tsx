import { longDate } from "@/ui/format";
import type { PeopleView } from "../server/readPeople";

/** The tree of teams with who is in them. They come with the import. */
export function PeoplePanel({ view }: { view: PeopleView }) {
	const groups = [
		...view.teams.map((team) => ({ ...team, key: team.name })),
		...(view.without.length ? [{ key: "", name: "Without a team", parent: null, depth: 0, people: view.without }] : []),
	];
	if (!groups.length)
		return (
			<div className="panel empty">
				<h2>Nobody yet</h2>
				<p>People and teams come with the first import.</p>
			</div>
		);
	return (
		<section className="panel">
			<div className="changed-scroll">
				<table className="table people-table">
					<thead>
						<tr>
							<th>Name</th>
							<th>Role</th>
							<th>E-mail</th>
							<th>Works here</th>
						</tr>
					</thead>
					{groups.map((team) => (
						<tbody key={team.key}>
							<tr>
								<th colSpan={4} scope="rowgroup" className={`team-${Math.min(3, team.depth)}`}>
									{team.name}
									{team.parent && <span className="second fw-normal">, part of {team.parent}</span>}{" "}
									<span className="third fw-normal">{team.people.length}</span>
								</th>
							</tr>
							{team.people.map((person) => (
								<tr key={person.id} className={person.active ? "" : "second"}>
									<td className={`team-${Math.min(3, team.depth)}`}>{person.name}</td>
									<td>{person.role}</td>
									<td>{person.email ?? "–"}</td>
									<td>
										{person.active
											? person.until
												? `until ${longDate(person.until)}`
												: "yes"
											: person.until
												? `left on ${longDate(person.until)}`
												: "not yet"}
									</td>
								</tr>
							))}
						</tbody>
					))}
				</table>
			</div>
			<p className="tiny second mb-0 mt-2">People and teams are kept in people.csv of the bundle; import it again to change them.</p>
		</section>
	);
}
