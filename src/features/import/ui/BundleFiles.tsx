import { SPECS } from "@/formats/bundle/spec";
import { DataTable } from "@/ui/parts/table/DataTable";

/** What a bundle holds, from the same description that reads it. */
export function BundleFiles() {
	return (
		<section className="panel setup-wide">
			<h2>Files in a bundle</h2>
			<p className="second">
				CSV files in UTF-8 with a header row and the sender’s own ids; days as 2026-11-24, instants as 2026-11-24T09:30:00Z, amounts with a decimal point, lists
				separated by |. Five files and settings.json (at least {"{}"}) are needed. Importing the same bundle twice changes nothing.
			</p>
			<DataTable
				of="Files of a bundle"
				className=""
				tableClass="small-text"
				rows={[...SPECS].sort((a, b) => Number(b.required) - Number(a.required))}
				rowKey={({ file }) => file}
				columns={[
					{ key: "file", label: "File", className: "text-nowrap", by: ({ file }) => file, cell: ({ file }) => file },
					{ key: "needed", label: "Needed", by: ({ required }) => (required ? "yes" : "no"), cell: ({ required }) => (required ? "yes" : "no") },
					{
						key: "columns",
						label: "Columns",
						cell: ({ fields }) =>
							fields
								.filter((field) => !field.extra)
								.map((field, i) => (
									<span key={field.name}>
										{i > 0 && ", "}
										{field.needed ? <b>{field.name}</b> : field.name}
									</span>
								)),
					},
				]}
			/>
			<p className="tiny second mb-0 mt-2">Columns in bold are required.</p>
		</section>
	);
}
