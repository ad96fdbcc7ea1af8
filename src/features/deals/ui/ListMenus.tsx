"use client";
import { useSearchParams } from "next/navigation";
import { Dropdown } from "react-bootstrap";
import { useNotice } from "@/ui/Notices";
import { ExportMenu } from "@/ui/parts/ExportMenu";
import { GROUPINGS } from "../table/groups";
import type { Status } from "../table/statuses";

/** By what the deals are grouped. */
export function GroupMenu({ group, set }: { group: string | null; set: (group: string | null) => void }) {
	return (
		<Dropdown>
			<Dropdown.Toggle size="sm" variant="outline-primary">
				{group ? `By ${GROUPINGS.find((g) => g.key === group)?.label}` : "Group"}
			</Dropdown.Toggle>
			<Dropdown.Menu>
				<Dropdown.Item as="button" type="button" active={!group} onClick={() => set(null)}>
					No groups
				</Dropdown.Item>
				{GROUPINGS.map(({ key, label }) => (
					<Dropdown.Item as="button" type="button" key={key} active={key === group} onClick={() => set(key)}>
						By {label}
					</Dropdown.Item>
				))}
			</Dropdown.Menu>
		</Dropdown>
	);
}

/** What is shown, in its order and its columns, as a file. */
export function DealsExport({ columns, status, ids }: { columns: readonly string[]; status: Status; ids: readonly string[] }) {
	const params = useSearchParams();
	const notice = useNotice();
	const save = async (form: "csv" | "xlsx") => {
		const answer = await fetch(`/table?${params}`, {
			method: "POST",
			headers: { "content-type": "application/json" },
			body: JSON.stringify({ form, status, columns, ids }),
		}).catch(() => null);
		if (!answer?.ok) return notice({ words: "Couldn’t create the file. Nothing was changed. Try again." });
		const link = document.createElement("a");
		link.href = URL.createObjectURL(await answer.blob());
		link.download = `deals.${form}`;
		link.click();
		setTimeout(() => URL.revokeObjectURL(link.href), 10_000);
	};
	return (
		<ExportMenu
			disabled={!ids.length}
			forms={[
				{ name: "CSV", save: () => save("csv") },
				{ name: "XLSX", save: () => save("xlsx") },
			]}
		/>
	);
}
