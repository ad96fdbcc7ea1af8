import { SPECS } from "@/formats/bundle/spec";
import { Heads } from "@/ui/parts/Heads";
import { Scrolls } from "@/ui/parts/Scrolls";

/** What a bundle holds, from the same description that reads it. */
export function BundleFiles() {
	return (
		<section className="panel setup-wide">
			<h2>Files in a bundle</h2>
			<p className="second">
				CSV files in UTF-8 with a header row and the sender’s own ids; days as 2026-11-24, instants as 2026-11-24T09:30:00Z, amounts with a decimal point, lists
				separated by |. Five files and settings.json (at least {"{}"}) are needed. Importing the same bundle twice changes nothing.
			</p>
			<Scrolls of="Files of a bundle">
				<table className="table small-text">
					<Heads of={["File", "Needed", "Columns"]} />
					<tbody>
						{[...SPECS]
							.sort((a, b) => Number(b.required) - Number(a.required))
							.map((spec) => (
								<tr key={spec.file}>
									<td className="text-nowrap">{spec.file}</td>
									<td>{spec.required ? "yes" : "no"}</td>
									<td>
										{spec.fields
											.filter((field) => !field.extra)
											.map((field, i) => (
												<span key={field.name}>
													{i > 0 && ", "}
													{field.needed ? <b>{field.name}</b> : field.name}
												</span>
											))}
									</td>
								</tr>
							))}
					</tbody>
				</table>
			</Scrolls>
			<p className="tiny second mb-0 mt-2">Columns in bold are required.</p>
		</section>
	);
}
