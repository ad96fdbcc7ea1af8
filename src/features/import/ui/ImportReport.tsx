import { Alert, Button } from "react-bootstrap";
import { byCount, plural } from "@/core/words/grammar";
import { grouped } from "@/ui/format";
import { DataTable } from "@/ui/parts/table/DataTable";
import type { ImportJson } from "../server/importBundle";

const WORDS: Partial<Record<ImportJson["state"], [variant: string, words: string]>> = {
	done: ["success", "Imported completely."],
	checked: ["success", "Checked. Ready to import; nothing was changed yet."],
	refused: ["danger", "Nothing was imported."],
	failed: ["danger", "The import failed. Nothing was imported."],
};

/** What became of an import: rows by file, and each problem with its place. */
export function ImportReport({ report, onSkipBad }: { report: ImportJson; onSkipBad: (() => void) | undefined }) {
	const [variant, words] = WORDS[report.state] ?? ["warning", report.state];
	const files = Object.keys(report.counts);
	const changed = Object.values(report.changed).reduce((sum, n) => sum + n, 0);
	const unknown = Object.entries(report.unknownColumns);
	return (
		<div className="mt-3" role="status">
			<Alert variant={variant}>
				<b>
					{report.name}: {report.state === "done" && changed === 0 ? "Everything was already here; nothing changed." : words}
				</b>
				{report.problemCount > 0 &&
					` ${plural(report.problemCount, "problem was", "problems were")} found${report.state === "done" ? "; those rows were skipped" : ""}.`}{" "}
				{report.step}
			</Alert>
			{report.causes.length > 0 && <Causes report={report} />}
			{onSkipBad && report.leavable && (
				<Button size="sm" variant="outline-primary" className="mt-2" onClick={onSkipBad}>
					Import the good rows, skip these
				</Button>
			)}
			{files.length > 0 && (
				<DataTable
					of="Files"
					className="mt-3"
					tableClass="small-text"
					rows={files.map((file) => ({ file }))}
					rowKey={({ file }) => file}
					columns={[
						{ key: "file", label: "File", by: ({ file }) => file, cell: ({ file }) => file },
						{ key: "read", label: "Rows read", num: true, by: ({ file }) => report.counts[file], cell: ({ file }) => report.counts[file] },
						{ key: "changed", label: "Added or changed", num: true, by: ({ file }) => report.changed[file], cell: ({ file }) => report.changed[file] ?? "–" },
					]}
				/>
			)}
			{unknown.length > 0 && (
				<p className="small-text second mt-2 mb-0">Unknown columns were kept: {unknown.map(([file, names]) => `${names.join(", ")} in ${file}`).join("; ")}.</p>
			)}
		</div>
	);
}

/** What is wrong, one cause a line; first what most rests on. */
function Causes({ report }: { report: ImportJson }) {
	return (
		<DataTable
			of="Problems"
			className="mt-2"
			tableClass="small-text"
			rows={report.causes}
			rowKey={(cause) => `${cause.file} ${cause.column} ${cause.reason}`}
			columns={[
				{
					key: "reason",
					label: "What is wrong",
					cell: ({ reason, rests, count }) => (
						<>
							{reason}
							{rests > 0 && (
								<span className="worse d-block">
									{plural(rests, "row")} elsewhere refer to {byCount(count, "it", "these")}
								</span>
							)}
						</>
					),
				},
				{
					key: "where",
					label: "File, column",
					by: ({ file, column }) => `${file} ${column ?? ""}`,
					cell: ({ file, column }) => (
						<>
							{file}
							{column && <span className="second d-block">{column}</span>}
						</>
					),
				},
				{ key: "rows", label: "Rows", num: true, by: ({ count }) => count, cell: ({ lines, count }) => (lines.length ? grouped(count) : "") },
				{
					key: "lines",
					label: "Lines",
					num: true,
					cell: ({ lines, count }) => `${lines.join(", ")}${lines.length > 0 && count > lines.length ? " …" : ""}`,
				},
				{ key: "values", label: "Such as", className: "problem-value", cell: ({ values }) => <span dir="auto">{values.join(" · ")}</span> },
			]}
		/>
	);
}
