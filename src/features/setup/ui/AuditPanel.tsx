import Link from "next/link";
import type { AuditEntry } from "../server/readAudit";

/** Who changed what, and when; the newest first. */
export function AuditPanel({ entries }: { entries: readonly AuditEntry[] }) {
	if (!entries.length) return <p className="panel second">Nothing was changed yet.</p>;
	return (
		<div className="panel p-0 table-scroll">
			<table className="table">
				<thead>
					<tr>
						<th>When</th>
						<th>Who</th>
						<th>What</th>
						<th>Of what</th>
					</tr>
				</thead>
				<tbody>
					{entries.map((entry) => (
						<tr key={entry.id}>
							<td className="text-nowrap second">{entry.at.slice(0, 16).replace("T", " ")}</td>
							<td className="text-nowrap">{entry.who}</td>
							<td className="text-nowrap">{entry.action}</td>
							<td>
								{entry.deal && <Link href={`/deals/${encodeURIComponent(entry.deal.id)}`}>{entry.deal.name}</Link>}{" "}
								<span className="small-text second audit-detail">{entry.detail}</span>
							</td>
						</tr>
					))}
				</tbody>
			</table>
		</div>
	);
}
