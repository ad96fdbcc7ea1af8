import Link from "next/link";
import { instantWords } from "@/ui/format";
import { MoreRows } from "@/ui/parts/MoreRows";
import type { AuditView } from "../server/readAudit";

/** Who changed what, and when; the newest first. */
export function AuditPanel({ view: { entries, count }, zone }: { view: AuditView; zone: string }) {
	if (!entries.length) return <p className="panel second">Nothing was changed yet.</p>;
	return (
		<>
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
								<td className="text-nowrap second">{instantWords(entry.at, zone)}</td>
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
			<MoreRows shown={entries.length} count={count} order="Newest first" />
		</>
	);
}
